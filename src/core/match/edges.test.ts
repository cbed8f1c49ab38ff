import { describe, expect, it } from "vitest";
import { randomStream } from "../maths/hash.ts";
import { findEdges, fitToEdge, type GreyPicture, greyOf } from "./edges.ts";
import { findFamilies } from "./families.ts";

/** A picture that is dark on one side of each line, with grain; edges are smooth over about a pixel. */
function picture(width: number, height: number, bright: (x: number, y: number) => number, grain = 2): GreyPicture {
	const random = randomStream(9);
	const pixels = new Uint8ClampedArray(width * height * 4);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			let sum = 0;
			for (let v = 0; v < 3; v++) for (let u = 0; u < 3; u++) sum += bright(x + (u + 0.5) / 3, y + (v + 0.5) / 3);
			const g = sum / 9 + (random() - 0.5) * 2 * grain;
			pixels.set([g, g, g, 255], 4 * (y * width + x));
		}
	return greyOf(pixels, width, height);
}

describe("edges of a picture", () => {
	it("are found where they are, to a fraction of a pixel", () => {
		const p = picture(320, 240, (x, y) => (y > 60 + 0.35 * x ? 60 : 170));
		const [{ segment: edge }] = findEdges(p);
		for (const [x, y] of [
			[edge[0], edge[1]],
			[edge[2], edge[3]],
		])
			expect(Math.abs(y - 60 - 0.35 * x) / Math.hypot(1, 0.35)).toBeLessThan(0.4);
		expect(Math.hypot(edge[2] - edge[0], edge[3] - edge[1])).toBeGreaterThan(280);
		expect(findEdges(picture(100, 80, () => 128, 0))).toEqual([]);
		expect(findEdges(greyOf(new Uint8ClampedArray(16), 2, 2))).toEqual([]);
	});

	it("take a line that was drawn some pixels off", () => {
		for (const [slope, from] of [
			[0.12, 90],
			[-0.4, 170],
			[0.9, -20],
		]) {
			const p = picture(320, 240, (x, y) => (y > from + slope * x ? 150 : 70), 6);
			const at = (x: number, off: number): [number, number] => [x, from + slope * x + off];
			const fitted = fitToEdge(p, [...at(60, 4), ...at(200, -3)], 8);
			expect(fitted).not.toBeNull();
			for (const k of [0, 2]) {
				const [x, y] = [fitted?.segment[k] ?? 0, fitted?.segment[k + 1] ?? 0];
				expect(Math.abs(y - from - slope * x) / Math.hypot(1, slope)).toBeLessThan(0.12);
			}
			expect(fitted?.offPx).toBeLessThan(0.6);
		}
	});

	it("take nothing where there is no edge", () => {
		const p = picture(200, 150, (x) => 100 + 0.1 * x, 5);
		expect(fitToEdge(p, [20, 40, 160, 90], 8)).toBeNull();
		expect(fitToEdge(p, [20, 40, 22, 41], 8)).toBeNull();
	});
});

describe("families of edges", () => {
	it("meet where the place's directions meet", () => {
		const random = randomStream(3);
		const meet = [
			[-300, 240],
			[1900, 260],
			[520, -60_000],
		];
		const edges = meet.flatMap(([X, Y]) =>
			Array.from({ length: 14 }, () => {
				const [x, y] = [100 + 800 * random(), 60 + 480 * random()];
				const l = Math.hypot(X - x, Y - y);
				const half = 30 + 50 * random();
				const [dx, dy] = [((X - x) / l) * half, ((Y - y) / l) * half];
				const n = () => (random() - 0.5) * 0.5;
				return [x - dx + n(), y - dy + n(), x + dx + n(), y + dy + n()] as const;
			}),
		);
		const clutter = Array.from(
			{ length: 12 },
			() => [1000 * random(), 600 * random(), 1000 * random(), 600 * random()] as const,
		).map(([a, b, c, d]) => [a, b, a + (c - a) * 0.08, b + (d - b) * 0.08] as const);
		const size = { width: 1000, height: 600 };
		const found = [...edges, ...clutter].map((segment) => ({ segment, strength: 10 }));
		const families = findFamilies(found, size);
		expect(findFamilies(found, size)).toEqual(families);
		expect(families.length).toBeGreaterThanOrEqual(3);
		expect(
			families
				.slice(0, 3)
				.map((f) => f.axis)
				.sort(),
		).toEqual(["across", "along", "upright"]);
		for (const f of families.slice(0, 3)) {
			const upright = f.axis === "upright";
			// All of its edges point at one of the three places.
			const point = meet.map(([X, Y]) =>
				Math.max(
					...f.segments.map(
						([a, b, c, d]) =>
							Math.abs((c - a) * (Y - b) - (d - b) * (X - a)) / Math.hypot(c - a, d - b) / Math.hypot(X - a, Y - b),
					),
				),
			);
			expect(Math.min(...point)).toBeLessThan(0.03);
			expect(point[2] === Math.min(...point)).toBe(upright);
		}
		expect(findFamilies([], size)).toEqual([]);
	});
});
