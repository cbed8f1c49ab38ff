import { describe, expect, it } from "vitest";
import { scratchOf, wideScratchOf } from "./scratch.ts";

describe("planes that are worked on and forgotten", () => {
	it("are the same memory the next time, of the size that is asked for", () => {
		const first = scratchOf(40, 1000);
		expect(first).toHaveLength(1000);
		const next = scratchOf(40, 700);
		expect(next).toHaveLength(700);
		expect(next.buffer).toBe(first.buffer);
		expect(scratchOf(41, 700).buffer).not.toBe(first.buffer);
		expect(wideScratchOf(40, 10)).toBeInstanceOf(Float64Array);
	});

	it("grow with what is asked for, but are not kept when they are large", () => {
		const small = scratchOf(42, 100);
		const larger = scratchOf(42, 5000);
		expect(larger.buffer).not.toBe(small.buffer);
		expect(scratchOf(42, 100).buffer).toBe(larger.buffer);
		const large = scratchOf(42, 2_000_000);
		expect(large).toHaveLength(2_000_000);
		expect(scratchOf(42, 2_000_000).buffer).not.toBe(large.buffer);
	});
});
