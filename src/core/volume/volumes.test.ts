import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import type { MaskStroke } from "../doc/schema.ts";
import { placement, type Vec3 } from "../maths/vec.ts";
import { geometryOf } from "../shape/shapes.ts";
import { columnsVolume, hollowsOfLand } from "./columns.ts";
import { hollowVolume } from "./hollow.ts";
import { paintVolume, strokesKey } from "./paint.ts";
import { reachFor, type SeamBody, seamVolume } from "./seams.ts";
import { BRICK_CELLS, BRICK_SAMPLES, brickKey, brickOf, packVolume, volumeAt } from "./volume.ts";

describe("a volume", () => {
	it("tells a brick by one number and back", () => {
		const n = fc.integer({ min: -60_000, max: 60_000 });
		fc.assert(
			fc.property(n, n, n, (i, j, k) => {
				expect(brickOf(brickKey(i, j, k))).toEqual([i, j, k]);
			}),
		);
	});

	it("is read between its samples, over the faces between bricks, and tells where nothing is known", () => {
		// What grows evenly is met exactly, but for bytes.
		const cellM = 0.25;
		const field = ([x, y, z]: Vec3) => (20 + 6 * x + 3 * y - 5 * z) / 255;
		const bricks = [-1, 0].flatMap((i) =>
			[-1, 0].map((k) => {
				const samples = new Uint8Array(BRICK_SAMPLES ** 3).map((_, n) => {
					const of = [n % 8, Math.floor(n / 8) % 8, Math.floor(n / 64)].map(
						(v, c) => ([i, 0, k][c] * BRICK_CELLS + v) * cellM,
					);
					return Math.round(255 * field(of as unknown as Vec3));
				});
				return { at: [i, 0, k] as const, samples };
			}),
		);
		const volume = packVolume(cellM, [100, 0, -50], bricks);
		fc.assert(
			fc.property(
				fc.double({ min: -1.7, max: 1.7, noNaN: true }),
				fc.double({ min: 0.01, max: 1.7, noNaN: true }),
				(x, y) => {
					const z = 1.7 * Math.sin(50 * x);
					expect(volumeAt(volume, [100 + x, y, z - 50], 1)).toBeCloseTo(field([x, y, z]), 2);
				},
			),
		);
		expect(volumeAt(volume, [100, -0.1, -50], 0.75)).toBe(0.75);
		expect(volumeAt(packVolume(1, [0, 0, 0], []), [0, 0, 0], 0.25)).toBe(0.25);
	});
});

const box = (key: string, foot: Vec3, size: Vec3, asks = true, headingDeg = 0): SeamBody => {
	const { mesh } = geometryOf(newPiece(key, "box", { size: [1, 1, 1] }));
	const reach = Math.hypot(...size);
	const bounds = [...foot.map((v) => v - reach), ...foot.map((v) => v + reach)];
	return { key, meshes: [mesh], transform: placement(foot, headingDeg, size), bounds, asks };
};

describe("seams", () => {
	const R = 0.5;
	/** What is told may be off by half a cell, where the two distances change places, and by a byte. */
	const EXACT = R / 12 + 0.01;

	it("tell on a wall how far the floor is, and on the floor how far the wall", () => {
		const volume = seamVolume([box("floor", [0, -0.2, 0], [6, 0.2, 6]), box("wall", [0, 0, 0], [0.3, 2, 4])], null, R);
		const at = (p: Vec3) => R * volumeAt(volume, p, 1);
		for (const d of [0.05, 0.1, 0.2, 0.3, 0.45]) {
			expect(Math.abs(at([0.15, d, 0.7]) - d)).toBeLessThan(EXACT);
			expect(Math.abs(at([0.15 + d, 0, 0.7]) - d)).toBeLessThan(EXACT);
			expect(Math.abs(at([-0.15 - d, 0, -1.1]) - d)).toBeLessThan(EXACT);
		}
		// Beyond the reach, and where only one of them is.
		expect(at([1, 0, 0])).toBe(R);
		expect(at([0.15, 1.4, 0])).toBe(R);
	});

	it("tell what turned bodies have between them to the least distance of their triangles", () => {
		const bodies = [box("a", [0, 0, 0], [1, 1, 1], true, 20), box("b", [1.15, 0.2, 0.1], [1, 0.7, 1.3], false, 65)];
		const volume = seamVolume(bodies, null, R);
		const { mesh } = geometryOf(newPiece("c", "box", { size: [1, 1, 1] }));
		const m = bodies[1].transform;
		/** Places spread over the other body, as near each other as that. */
		const spread: Vec3[] = [];
		for (let t = 0; t < mesh.indices.length; t += 3) {
			const [a, b, c] = [0, 1, 2].map((n) => mesh.positions.subarray(3 * mesh.indices[t + n]));
			for (let u = 0; u <= 1; u += 0.02)
				for (let v = 0; u + v <= 1.0001; v += 0.02) {
					const p = [0, 1, 2].map((i) => a[i] + u * (b[i] - a[i]) + v * (c[i] - a[i]));
					spread.push(
						[0, 1, 2].map(
							(r) => m[4 * r] * p[0] + m[4 * r + 1] * p[1] + m[4 * r + 2] * p[2] + m[4 * r + 3],
						) as unknown as Vec3,
					);
				}
		}
		const cos = Math.cos((20 * Math.PI) / 180);
		const sin = Math.sin((20 * Math.PI) / 180);
		let met = 0;
		for (let n = 0; n < 60; n++) {
			// A face of the first, that looks to the other.
			const [y, w] = [(n % 10) / 10 + 0.05, Math.floor(n / 10) / 6 - 0.42];
			const p: Vec3 = [0.5 * cos - w * sin, y, 0.5 * sin + w * cos];
			const least = Math.min(R, ...spread.map((q) => Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2])));
			if (least < R) met++;
			expect(Math.abs(R * volumeAt(volume, p, 1) - least)).toBeLessThan(EXACT);
		}
		expect(met).toBeGreaterThan(20);
	});

	it("tell the land how far what stands on it is, and what stands on it the land, along a slope", () => {
		const heightAt = (x: number) => 0.3 * x;
		const land = { key: "slope", heightAt, asks: true };
		const volume = seamVolume([box("post", [1, -0.5, 0], [0.2, 3, 0.2])], land, R);
		const at = (p: Vec3) => R * volumeAt(volume, p, 1);
		for (const d of [0.08, 0.2, 0.4]) {
			// Across the slope, where its height is the post's.
			expect(Math.abs(at([1, heightAt(1), 0.1 + d]) - d)).toBeLessThan(EXACT);
			// Up the post's side: the land is nearer than straight down by its slope.
			expect(Math.abs(at([1, heightAt(1) + d, 0.1]) - d / Math.hypot(1, 0.3))).toBeLessThan(EXACT);
		}
		expect(at([1, heightAt(1), 2])).toBe(R);
	});

	it("are none where nobody asks, and an edit of one body works out its own bricks alone", () => {
		const still = [box("a", [0, 0, 0], [1, 1, 1], false), box("b", [0.9, 0, 0], [1, 1, 1], false)];
		expect(seamVolume(still, null, R).words[1]).toBe(0);
		const made: string[] = [];
		const things = new Map<string, unknown>();
		const kept = <T>(key: string, make: () => T): T => {
			if (!things.has(key)) {
				made.push(key);
				things.set(key, make());
			}
			return things.get(key) as T;
		};
		const [a, b, c] = [
			box("a", [0, 0, 0], [1, 1, 1]),
			box("b", [0.9, 0, 0], [1, 1, 1]),
			box("b2", [0.8, 0, 0], [1, 1, 1]),
		];
		seamVolume([a, b], null, R, [0, 0, 0], kept);
		made.length = 0;
		const again = seamVolume([a, c], null, R, [0, 0, 0], kept);
		expect(made.every((key) => key.includes("b2"))).toBe(true);
		expect(again.words).toEqual(seamVolume([a, c], null, R).words);
	});

	it("take the reach in steps of twice", () => {
		for (const m of [0.02, 0.3, 0.5, 0.51, 8]) {
			expect(reachFor(m)).toBeGreaterThanOrEqual(m - 1e-9);
			expect(reachFor(m)).toBeLessThan(2 * m + 1e-9);
		}
	});
});

describe("how full it is about a place", () => {
	const S = 0.3;
	const of = (kind: "box" | "stair" | "sphere" | "plane", size: Vec3) =>
		hollowVolume([geometryOf(newPiece("a", kind, { size: size as [number, number, number] })).mesh], size, S);

	it("is half on a flat face, a quarter at an edge of a box and an eighth at its corner", () => {
		const volume = of("box", [2, 1.5, 2]);
		const at = (p: Vec3) => volumeAt(volume, p, 0.5);
		expect(at([1, 0.7, 0.1])).toBeCloseTo(0.5, 1);
		expect(at([0.2, 1.5, -0.3])).toBeCloseTo(0.5, 1);
		expect(Math.abs(at([1, 0.75, 1]) - 0.25)).toBeLessThan(0.06);
		expect(Math.abs(at([1, 1.5, 1]) - 0.125)).toBeLessThan(0.06);
	});

	it("is more where two faces meet in a hollow", () => {
		const { mesh } = geometryOf(newPiece("a", "stair", { size: [2, 1.6, 3] }));
		const volume = hollowVolume([mesh], [2, 1.6, 3], S);
		// In the middle of its width, at the heights and depths of its corners.
		const full = Array.from({ length: mesh.positions.length / 3 }, (_, n) =>
			volumeAt(volume, [0, 1.6 * mesh.positions[3 * n + 1], 3 * mesh.positions[3 * n + 2]], 0.5),
		);
		expect(Math.max(...full)).toBeGreaterThan(0.6);
		expect(Math.min(...full)).toBeLessThan(0.35);
	});

	it("knows nothing of what has no inside, and has room for what is large", () => {
		expect(of("plane", [4, 1, 4]).words[1]).toBe(0);
		const wide = of("box", [300, 40, 300]);
		expect(wide.words.byteLength).toBeLessThan(30e6);
		expect(Math.abs(volumeAt(wide, [20, 40, 10], 0.5) - 0.5)).toBeLessThan(0.1);
	});
});

describe("what a brush has painted", () => {
	const stroke: MaskStroke = {
		points: [
			[0, 0, 0],
			[2, 0, 0],
		],
		radiusM: 0.5,
		strength: 0.8,
		soft: 0.5,
		away: false,
	};

	it("covers its line by its strength, fades at its rim, and adds up to no more than all", () => {
		const volume = paintVolume([stroke]);
		const at = (p: Vec3) => volumeAt(volume, p, 0);
		expect(at([1, 0, 0])).toBeCloseTo(0.8, 2);
		expect(at([1, 0.1, 0.1])).toBeCloseTo(0.8, 2);
		// Half of its fading.
		expect(at([1, 0.375, 0])).toBeCloseTo(0.4, 1);
		expect(at([1, 0, 0.51])).toBeLessThan(0.01);
		const twice = paintVolume([stroke, stroke]);
		expect(volumeAt(twice, [1, 0, 0], 0)).toBeCloseTo(0.96, 2);
	});

	it("is taken away by strokes that take away, in their order", () => {
		const away = { ...stroke, points: [[1, 0, 0] as [number, number, number]], strength: 1, away: true };
		expect(volumeAt(paintVolume([stroke, away]), [1, 0, 0], 0)).toBe(0);
		expect(volumeAt(paintVolume([stroke, away]), [0, 0, 0], 0)).toBeCloseTo(0.8, 2);
		expect(volumeAt(paintVolume([away, stroke]), [1, 0, 0], 0)).toBeCloseTo(0.8, 2);
		expect(strokesKey([stroke, away])).not.toBe(strokesKey([away, stroke]));
	});

	it("is the same whether it was painted place by place or all at once, with what was kept or without", () => {
		const things = new Map<string, unknown>();
		const kept = <T>(key: string, make: () => T): T => {
			if (!things.has(key)) things.set(key, make());
			return things.get(key) as T;
		};
		const points = Array.from({ length: 12 }, (_, n): [number, number, number] => [0.3 * n, Math.sin(n), 0.1 * n]);
		const strokes = [stroke, { ...stroke, points, away: true, strength: 0.6 }, { ...stroke, radiusM: 0.3 }];
		for (let n = 1; n <= 12; n++) paintVolume([strokes[0], { ...strokes[1], points: points.slice(0, n) }], kept);
		for (const now of [strokes.slice(0, 2), strokes, strokes.slice(0, 1), [strokes[2], strokes[0]], strokes]) {
			const [again, fresh] = [paintVolume(now, kept), paintVolume(now)];
			expect(again.cellM).toBe(fresh.cellM);
			for (let n = 0; n < 300; n++) {
				const at: Vec3 = [3 * Math.sin(n) + 1, Math.cos(7 * n), 0.8 * Math.sin(3 * n)];
				expect(volumeAt(again, at, 0)).toBe(volumeAt(fresh, at, 0));
			}
		}
	});

	it("has room for the widest beside the finest", () => {
		const wide = { ...stroke, radiusM: 200 };
		const volume = paintVolume([stroke, wide]);
		expect(volume.words.byteLength).toBeLessThan(40e6);
		expect(volumeAt(volume, [1, 0, 150], 0)).toBeGreaterThan(0.3);
	});
});

describe("hollows of the land", () => {
	const anchor: Vec3 = [0, 0, 0];
	const over = { x: 3, z: -2, withinM: 6 };
	const at = (height: (x: number, z: number) => number, x: number, z: number) => {
		const { valueAt, cellM } = hollowsOfLand(height, over, 2, anchor);
		return valueAt(cellM * Math.round(x / cellM), cellM * Math.round(z / cellM));
	};

	it("are half full on level ground and on even slopes, more in a bowl, less on a ridge, as a ball that is filled", () => {
		expect(at(() => 7, 3, -2)).toBeCloseTo(0.5, 5);
		expect(at((x, z) => 0.7 * x - 0.4 * z, 1, 1)).toBeCloseTo(0.5, 4);
		// A ditch with sides of 45°: a ball on its bottom has another eighth of itself filled on either side.
		const ditch = at((x) => Math.abs(x - 3), 3, -2);
		expect(ditch).toBeGreaterThan(0.6);
		expect(ditch).toBeLessThan(0.85);
		expect(at((x) => -Math.abs(x - 3), 3, -2)).toBeCloseTo(1 - ditch, 4);
		expect(at((x) => Math.abs(x - 3), 6, -2)).toBeCloseTo(0.5, 4);
		// Beyond its square nothing is known.
		expect(at((x) => Math.abs(x - 40), 40, -2)).toBe(0.5);
	});

	it("are read from the columns over them", () => {
		const height = (x: number) => Math.abs(x - 3);
		const { valueAt, cellM } = hollowsOfLand(height, over, 2, anchor);
		const volume = columnsVolume({ valueAt, within: () => true, over, cellM, heightAt: height }, anchor);
		expect(volumeAt(volume, [3, 0, -2], 0.5)).toBeCloseTo(at(height, 3, -2), 1);
		expect(volumeAt(volume, [7, 4, -2], 0.5)).toBeCloseTo(0.5, 1);
	});
});
