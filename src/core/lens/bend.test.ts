import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bent, straightened } from "../maths/division.ts";
import { estimateBend } from "./bend.ts";

describe("the bend of a lens", () => {
	it("is undone by its inverse", () => {
		fc.assert(
			fc.property(
				fc.double({ min: -900, max: 900, noNaN: true }),
				fc.double({ min: -500, max: 500, noNaN: true }),
				fc.double({ min: -0.3, max: 0.2, noNaN: true }),
				(x, y, k) => {
					const [u, v] = straightened(bent([x, y], k, 1100), k, 1100);
					return Math.hypot(u - x, v - y) < 1e-6;
				},
			),
		);
	});

	it("is found from curves, none from straight ones, and nothing from too few places", () => {
		const curve = (y: number, k: number) => [-800, -400, 0, 400, 800].map((x) => bent([x, y], k, 1100));
		for (const k of [-0.2, -0.05, 0.1])
			expect(estimateBend([curve(-300, k), curve(350, k)], 1100)?.k).toBeCloseTo(k, 4);
		expect(estimateBend([curve(-300, 0)], 1100)?.k).toBeCloseTo(0, 6);
		expect(
			estimateBend(
				[
					[
						[0, 0],
						[5, 5],
					],
				],
				1100,
			),
		).toBeNull();
		// An edge through the middle stays straight whatever the lens does.
		const told = estimateBend([curve(0, -0.2)], 1100);
		expect(told === null || told.kSd > 1).toBe(true);
	});

	it("knows how well it is known", () => {
		const noisy = (seed: number) =>
			[-800, -400, 0, 400, 800].map((x, i) => bent([x, 300 + Math.sin(seed * 7 + i * 2.4)], -0.1, 1100));
		const sure = estimateBend([noisy(1), noisy(2), noisy(3), noisy(4)], 1100);
		const unsure = estimateBend([noisy(1)], 1100);
		expect(sure?.kSd).toBeLessThan(unsure?.kSd ?? 0);
		expect(Math.abs((sure?.k ?? 0) + 0.1)).toBeLessThan(4 * (sure?.kSd ?? 0));
	});
});
