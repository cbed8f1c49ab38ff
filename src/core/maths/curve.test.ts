import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type CurvePoint, crossesItself, lengthAlong, nearestAlong, placesAlong, stretches } from "./curve.ts";
import { convexParts, signedArea, trianglesOf } from "./polygon.ts";

const line = (...places: [number, number, ("soft" | undefined)?][]): CurvePoint[] =>
	places.map(([x, y, soft], n) => ({ n, at: [x, y], ...(soft && { soft: true }) }));

describe("a line through points", () => {
	it("is straight between corners, and goes through its soft points without a corner", () => {
		expect(placesAlong(line([0, 0], [2, 0], [2, 3]), false)).toEqual([
			[0, 0],
			[2, 0],
			[2, 3],
		]);
		const bow = stretches(line([0, 0], [1, 1, "soft"], [2, 0]), false);
		expect(bow.map((s) => [s.begins, s.ends])).toEqual([
			[false, true],
			[true, false],
		]);
		const [into, out] = [bow[0].ways.at(-1) as number[], bow[1].ways[0] as number[]];
		expect(into[0] * out[1] - into[1] * out[0]).toBeCloseTo(0, 12);
		expect(into[1]).toBeCloseTo(0, 12);
	});
	it("of four soft corners of a square is a round as good as a circle", () => {
		const round = placesAlong(line([1, 0, "soft"], [0, 1, "soft"], [-1, 0, "soft"], [0, -1, "soft"]), true);
		for (const [x, y] of round) expect(Math.abs(Math.hypot(x, y) - 1)).toBeLessThan(0.06);
		expect(lengthAlong(round, true)).toBeGreaterThan(5.9);
	});
	it("is known to cross itself, to touch itself, to run back over itself", () => {
		expect(crossesItself(line([0, 0], [2, 0], [2, 2], [0, 2]), true)).toBe(false);
		expect(crossesItself(line([0, 0], [2, 2], [2, 0], [0, 2]), true)).toBe(true);
		expect(crossesItself(line([0, 0], [4, 0], [4, 4], [2, 0], [0, 4]), true)).toBe(true);
		expect(crossesItself(line([0, 0], [4, 0], [2, 0]), false)).toBe(true);
		expect(crossesItself(line([0, 0], [4, 0], [4, 1]), false)).toBe(false);
	});
	it("has a nearest place to each", () => {
		const places = placesAlong(line([0, 0], [4, 0], [4, 3]), false);
		expect(nearestAlong(places, false, [3, 1])).toEqual({ alongM: 3, edge: 0, offM: 1 });
		expect(nearestAlong(places, false, [9, 2])).toEqual({ alongM: 6, edge: 1, offM: 5 });
	});
});

describe("a polygon", () => {
	/** A star about the middle: it never crosses itself. */
	const star = fc
		.array(fc.integer({ min: 1, max: 9 }), { minLength: 3, maxLength: 40 })
		.map((radii) =>
			radii.map((r, i) => {
				const a = (i / radii.length) * 2 * Math.PI;
				return [r * Math.cos(a), r * Math.sin(a)];
			}),
		)
		.filter((corners) => signedArea(corners) > 1e-6);
	/** Steps up and down along right angles: many corners lie on one line. */
	const steps = fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 2, maxLength: 20 }).map((heights) => [
		[0, 0],
		[heights.length, 0],
		...heights
			.map((h, i) => [
				[i + 1, h],
				[i, h],
			])
			.reverse()
			.flat()
			.filter(([x, y], k, all) => k === 0 || x !== all[k - 1][0] || y !== all[k - 1][1]),
	]);

	it("is cut into triangles that have its area, with every one of its edges in one of them", () => {
		fc.assert(
			fc.property(fc.oneof(star, steps), (corners) => {
				const triangles = trianglesOf(corners);
				expect(triangles.length).toBe(corners.length - 2);
				const areas = triangles.map((t) => signedArea(t.map((i) => corners[i])));
				for (const a of areas) expect(a).toBeGreaterThan(0);
				expect(areas.reduce((s, a) => s + a, 0)).toBeCloseTo(signedArea(corners), 6);
				const edges = new Set(triangles.flatMap(([a, b, c]) => [`${a} ${b}`, `${b} ${c}`, `${c} ${a}`]));
				for (let i = 0; i < corners.length; i++) expect(edges).toContain(`${i} ${(i + 1) % corners.length}`);
			}),
			{ numRuns: 200 },
		);
	});
	it("is cut into convex parts that have its area", () => {
		fc.assert(
			fc.property(fc.oneof(star, steps), (corners) => {
				const parts = convexParts(corners).map((ring) => ring.map((i) => corners[i]));
				expect(parts.reduce((s, p) => s + signedArea(p), 0)).toBeCloseTo(signedArea(corners), 6);
				for (const p of parts)
					for (const [i, b] of p.entries()) {
						const [a, c] = [p[(i + p.length - 1) % p.length], p[(i + 1) % p.length]];
						expect((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])).toBeGreaterThan(-1e-9);
					}
			}),
			{ numRuns: 100 },
		);
		const square = [
			[0, 0],
			[1, 0],
			[1, 1],
			[0, 1],
		];
		expect(convexParts(square).length).toBe(1);
	});
});
