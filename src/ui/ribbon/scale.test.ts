import { describe, expect, it } from "vitest";
import { FAR, metresAt, moved, NEAR, ticks, WHOLE, xOf, zoomed } from "./scale.ts";

describe("the ribbon's scale", () => {
	it("leads from metres to pixels and back", () => {
		for (const m of [0.5, 7, 1234, 30_000]) expect(metresAt(xOf(m, WHOLE, 800), WHOLE, 800)).toBeCloseTo(m, 6);
	});

	it("enlarges about what is under the pointer and stays within the whole", () => {
		const span = zoomed(WHOLE, 3, 40);
		expect(xOf(40, span, 800)).toBeCloseTo(xOf(40, WHOLE, 800), 6);
		expect(zoomed(span, 1 / 50, 40)).toEqual({ fromM: expect.closeTo(NEAR, 9), toM: expect.closeTo(FAR, 4) });
		expect(zoomed(WHOLE, 1e9, 40).toM / zoomed(WHOLE, 1e9, 40).fromM).toBeCloseTo(1.3, 6);
		const far = moved(span, 40, 1e-9);
		expect(far.toM).toBeCloseTo(FAR, 3);
	});

	it("marks no more round distances than fit", () => {
		expect(ticks(WHOLE, 10)).toEqual([1, 3, 10, 30, 100, 300, 1000, 3000, 10_000, 30_000]);
		for (const span of [WHOLE, zoomed(WHOLE, 4, 10), zoomed(WHOLE, 40, 10)]) {
			expect(ticks(span, 10).length).toBeLessThanOrEqual(10);
			expect(ticks(span, 10).length).toBeGreaterThan(1);
		}
	});
});
