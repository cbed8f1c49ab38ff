import { describe, expect, it } from "vitest";
import { readyBy } from "./foretell.ts";

describe("when a waiting print will be done", () => {
	const now = 1_000_000;
	const seconds = (print: { samplesLeft: number; samplesAhead: number }, rate: number) =>
		(readyBy(print, rate, now).getTime() - now) / 1000;
	it("is after its own samples and those of all before it", () => {
		expect(seconds({ samplesLeft: 32e6, samplesAhead: 0 }, 1e6)).toBe(32);
		expect(seconds({ samplesLeft: 32e6, samplesAhead: 64e6 }, 1e6)).toBe(96);
		expect(seconds({ samplesLeft: 32e6, samplesAhead: 64e6 }, 4e6)).toBe(24);
	});
	it("is now when nothing is left", () => {
		expect(seconds({ samplesLeft: 0, samplesAhead: 0 }, 1e6)).toBe(0);
	});
});
