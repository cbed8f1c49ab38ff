import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import type { Ground, LandEntry } from "../doc/schema.ts";
import { holdField } from "./field.ts";
import { groundHeight, landNeeds, wornAt } from "./height.ts";
import { flowOf, type LandSquare, landSquare, MASKS, squareObj } from "./landSquare.ts";
import { newEntry } from "./ledger/ledger.ts";

const ground: Ground = { preset: "moor", seed: 4, heightM: 40, ledger: [newEntry("fold", "f", 0, 0)] };
const { water } = blankShot();

/** A square of any heights. */
function squareOf(size: number, metres: number, height: (x: number, z: number) => number): LandSquare {
	const step = metres / size;
	const heights = Float32Array.from({ length: size * size }, (_, i) =>
		height(((i % size) + 0.5) * step - metres / 2, (Math.floor(i / size) + 0.5) * step - metres / 2),
	);
	return {
		x: 0,
		z: 0,
		metres,
		size,
		heights,
		leastM: Math.min(...heights),
		mostM: Math.max(...heights),
		metresPerPixel: step,
	};
}
const cone = squareOf(128, 128, (x, z) => 60 - 0.5 * Math.hypot(x, z));

describe("a square of the land", () => {
	it("has the land's heights at pixel centres, the top row towards −z, the left column −x", () => {
		const square = landSquare(ground, { x: 30, z: -200, metres: 64, size: 16 });
		for (const [i, j] of [
			[0, 0],
			[15, 0],
			[3, 11],
		])
			expect(square.heights[j * 16 + i]).toBe(
				Math.fround(groundHeight(ground, 30 + (i + 0.5) * 4 - 32, -200 + (j + 0.5) * 4 - 32)),
			);
		expect(square.leastM).toBe(Math.min(...square.heights));
		expect(square.mostM).toBe(Math.max(...square.heights));
		expect(square.metresPerPixel).toBe(4);
	});
	it("is the same land, finer: every fourth pixel's mean is what coarse pixels are near", () => {
		const coarse = landSquare(ground, { x: 0, z: 0, metres: 40, size: 10 });
		const fine = landSquare(ground, { x: 0, z: 0, metres: 40, size: 50 });
		// A pixel of five has its centre on the centre of the coarse one.
		for (let j = 0; j < 10; j++)
			for (let i = 0; i < 10; i++)
				expect(fine.heights[(5 * j + 2) * 50 + 5 * i + 2]).toBeCloseTo(coarse.heights[j * 10 + i], 4);
	});
	it("tells the slope of a cone, the same on all sides", () => {
		const slope = MASKS.slope(cone, ground, water);
		const degrees = (Math.atan(0.5) * 180) / Math.PI;
		for (let n = 0; n < slope.length; n++) {
			const [x, z] = [(n % 128) - 63.5, Math.floor(n / 128) - 63.5];
			if (Math.hypot(x, z) < 6) continue;
			expect(Math.abs(slope[n] * 90 - degrees)).toBeLessThan(0.5);
		}
	});
	it("lets all water of a cone run down, more the farther down: half of the way as much as a fan holds", () => {
		const flow = flowOf(cone);
		// A place at a distance r on a cone is passed by what falls between the top and it: r / 2 for each unit of its width.
		const mean = (r: number) => {
			const ring = [...flow].filter(
				(_, n) => Math.abs(Math.hypot((n % 128) - 63.5, Math.floor(n / 128) - 63.5) - r) < 1.5,
			);
			return ring.reduce((s, v) => s + v, 0) / ring.length;
		};
		for (const r of [16, 32, 48]) expect(Math.abs(mean(r) / (r / 2) - 1), `${r} px`).toBeLessThan(0.15);
		expect(mean(48) / mean(24)).toBeGreaterThan(1.8);
		expect(mean(48) / mean(24)).toBeLessThan(2.2);
	});
	it("loses and makes no water: what reaches the lowest places is all of the square", () => {
		const bowl = squareOf(64, 64, (x, z) => 0.01 * (x * x + z * z) + 0.001 * x);
		const flow = flowOf(bowl);
		const pits = [...flow.keys()].filter((n) => {
			const [i, j] = [n % 64, Math.floor(n / 64)];
			return [-1, 0, 1].every((dj) =>
				[-1, 0, 1].every((di) => {
					const h = bowl.heights[(j + dj) * 64 + i + di];
					return h === undefined || h >= bowl.heights[n];
				}),
			);
		});
		const sum = pits.reduce((s, n) => s + flow[n], 0);
		expect(sum / 64 ** 2).toBeGreaterThan(0.999);
		expect(sum / 64 ** 2).toBeLessThan(1.001);
	});
	it("tells hollows from crests, and what is wet from what is dry", () => {
		const waves = squareOf(64, 64, (x) => 2 * Math.cos(x / 4));
		const hollow = MASKS.hollow(waves, ground, water);
		const row = Array.from({ length: 64 }, (_, i) => [waves.heights[32 * 64 + i], hollow[32 * 64 + i]]);
		for (const [h, v] of row.slice(6, 58)) {
			if (h > 1.5) expect(v).toBe(0);
			if (h < -1.8) expect(v).toBeGreaterThan(0.2);
		}
		const wet = MASKS.wet(waves, ground, { ...water, on: true, levelM: 0 });
		for (const [n, h] of waves.heights.entries()) {
			if (h < 0) expect(wet[n]).toBe(1);
			if (h > 0.1) expect(wet[n]).toBe(0);
		}
		expect(Math.max(...MASKS.wet(waves, ground, { ...water, on: false }))).toBe(0);
	});
	it("has masks between nothing and all, for any land", () => {
		const square = landSquare(ground, { x: 0, z: 0, metres: 300, size: 48 });
		for (const [name, mask] of Object.entries(MASKS))
			for (const v of mask(square, ground, { ...water, on: true })) {
				expect(v, name).toBeGreaterThanOrEqual(0);
				expect(v, name).toBeLessThanOrEqual(1);
			}
	});
	it("is a mesh whose triangles look up", () => {
		const text = [...squareObj(squareOf(3, 6, (x, z) => 0.1 * x + 0.2 * z))].join("");
		const corners = text.split("\n").flatMap((l) => (l.startsWith("v ") ? [l.slice(2).split(" ").map(Number)] : []));
		const faces = text.split("\n").flatMap((l) => (l.startsWith("f ") ? [l.slice(2).split(" ").map(Number)] : []));
		expect([corners.length, faces.length]).toEqual([9, 8]);
		for (const [a, b, c] of faces.map((f) => f.map((n) => corners[n - 1])))
			expect((b[2] - a[2]) * (c[0] - a[0]) - (b[0] - a[0]) * (c[2] - a[2])).toBeGreaterThan(0);
	});
});

describe("masks of what has worn", () => {
	it("tell what was taken and what was laid, each by the most of the square", () => {
		const entry = { ...newEntry("water", "mask", 0, 0), radiusM: 60, featherM: 4, fineness: 6 } as LandEntry;
		const land: Ground = { preset: "plain", seed: 5, heightM: 0, ledger: [entry] };
		const [{ key, x0, z0, stepM, cells }] = landNeeds(land);
		// Worn by 3 m on the left, laid by 1 m on the right.
		const changeM = Float32Array.from({ length: cells * cells }, (_, at) => (at % cells < cells / 2 ? -3 : 1));
		holdField(key, "mask", { x0, z0, stepM, cells, changeM });
		const square = landSquare(land, { x: 0, z: 0, metres: 60, size: 16 });
		const [wear, laid] = [MASKS.wear(square, land, water), MASKS.laid(square, land, water)];
		expect([wear[2], wear[13], laid[2], laid[13]]).toEqual([1, 0, 0, 1]);
		expect(wornAt(land)(-20, 0).takenM).toBeCloseTo(3, 5);
		expect(wornAt(land)(200, 0)).toEqual({ takenM: 0, laidM: 0 });
	});
});
