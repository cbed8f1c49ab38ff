import { describe, expect, it } from "vitest";
import { keptBy } from "./same.ts";

describe("what is kept by a thing and a value", () => {
	it("is made again only when either is another", () => {
		let made = 0;
		const kept = keptBy((thing: { n: number }, by: number) => ({ sum: thing.n + by, at: ++made }));
		const thing = { n: 1 };
		expect(kept(thing, 2)).toBe(kept(thing, 2));
		expect(made).toBe(1);
		expect(kept(thing, 3).sum).toBe(4);
		expect(kept({ n: 1 }, 3).sum).toBe(4);
		expect(made).toBe(3);
	});
});
