import fc from "fast-check";
import { beforeEach, describe, expect, it } from "vitest";
import { MaskStroke, MOST_MASK_POINTS } from "../../../core/doc/schema.ts";
import type { Vec3 } from "../../../core/maths/vec.ts";
import { useStudio } from "../../store/studio.ts";
import { setPaintBrush, withPlace } from "./paintBrush.ts";

describe("the places of a stroke", () => {
	it("are as far apart as its radius asks, in whole millimetres", () => {
		let points: Vec3[] = [];
		for (let n = 0; n < 100; n++) points = withPlace(points, [0.01234567 * n, 0, 0], 0.1);
		expect(points.length).toBeLessThan(45);
		for (const [n, p] of points.entries()) {
			for (const v of p) expect(v).toBe(Math.round(v * 1000) / 1000);
			if (n > 0) expect(p[0] - points[n - 1][0]).toBeGreaterThan(0.029);
		}
	});

	it("are never more than a document holds, and the stroke still goes from its first place to its last", () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1500 }), (count) => {
				let points: Vec3[] = [];
				for (let n = 0; n < count; n++) points = withPlace(points, [n, Math.sin(n), 0], 0.5);
				expect(points.length).toBeLessThanOrEqual(MOST_MASK_POINTS);
				expect(points[0][0]).toBe(0);
				expect(points[points.length - 1][0]).toBe(count - 1);
				const stroke = { points, radiusM: 0.5, strength: 1, soft: 0.5, away: false };
				expect(MaskStroke.safeParse(stroke).success).toBe(true);
			}),
			{ numRuns: 30 },
		);
	});
});

describe("the brush of a surface", () => {
	beforeEach(() => useStudio.setState({ painting: null, paintRadiusM: 0.4, paintStrength: 0.8 }));

	it("is not changed by a key while it is not in hand", () => {
		expect(setPaintBrush(true, "radius")).toBe(false);
		expect(useStudio.getState().paintRadiusM).toBe(0.4);
	});

	it("goes wider and narrower, stronger and weaker, and stays within what a stroke may have", () => {
		useStudio.setState({ painting: { mask: "m", on: null } });
		expect(setPaintBrush(true, "radius")).toBe(true);
		expect(useStudio.getState().paintRadiusM).toBeCloseTo(0.48, 6);
		for (let n = 0; n < 200; n++) setPaintBrush(true, n % 2 ? "radius" : "strength");
		expect(useStudio.getState()).toMatchObject({ paintRadiusM: 500, paintStrength: 1 });
		for (let n = 0; n < 300; n++) setPaintBrush(false, n % 2 ? "radius" : "strength");
		expect(useStudio.getState()).toMatchObject({ paintRadiusM: 0.005, paintStrength: 0.01 });
	});
});
