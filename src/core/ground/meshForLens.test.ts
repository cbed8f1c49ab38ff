import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { type Ground, GroundPreset, LandEntry } from "../doc/schema.ts";
import { DEG } from "../maths/functions.ts";
import type { Mesh } from "../maths/mesh.ts";
import { groundHeight } from "./height.ts";
import { newEntry } from "./ledger/ledger.ts";
import { groundMeshForLens, IN_HAND } from "./meshForLens.ts";
import { PRESETS } from "./preset.ts";
import { FRAME_PX, footOfWay, type LensFootprint, sightOf } from "./sight.ts";
import { footOver, outlineOf, outlineOfLand } from "./testing.ts";

const { water } = blankShot();
const land = (preset: GroundPreset, heightM: number, ledger: Ground["ledger"] = []): Ground => ({
	preset,
	seed: 2,
	heightM,
	ledger,
});

/** How often each edge is had by triangles, by whether it lies on the square's rim. */
function edgesOf({ positions, indices }: Mesh): { inner: Set<number>; rim: Set<number> } {
	const count = positions.length / 3;
	const edges = new Map<number, number>();
	for (let k = 0; k < indices.length; k++) {
		const [a, b] = [indices[k], indices[k % 3 === 2 ? k - 2 : k + 1]];
		const key = Math.min(a, b) * count + Math.max(a, b);
		edges.set(key, (edges.get(key) ?? 0) + 1);
	}
	let most = 0;
	for (let i = 0; i < positions.length; i += 3)
		most = Math.max(most, Math.abs(positions[i]), Math.abs(positions[i + 2]));
	const onRim = (i: number) => Math.max(Math.abs(positions[3 * i]), Math.abs(positions[3 * i + 2])) > most - 5000;
	const [inner, rim] = [new Set<number>(), new Set<number>()];
	for (const [key, n] of edges) (n === 1 && onRim(Math.floor(key / count)) && onRim(key % count) ? rim : inner).add(n);
	return { inner, rim };
}

describe("the ground as triangles", () => {
	// Flat: a planet has tests of its own.
	const ridges = { ...land("ridges", 120), planetKm: null };
	const foot = footOver(ridges, 1.7, { headingDeg: 70 });
	const { mesh, coarse } = groundMeshForLens(ridges, water, [foot]);

	it("has no crack: every edge belongs to two triangles but for those of its rim", () => {
		for (const one of [mesh, coarse]) expect([...edgesOf(one).inner]).toEqual([2]);
		const way = Array.from({ length: 5 }, (_, i) => footOver(ridges, 1.7, { x: 40 * i, headingDeg: 70 + 9 * i }));
		expect([...edgesOf(groundMeshForLens(ridges, water, way, IN_HAND).mesh).inner]).toEqual([2]);
	});

	it("lies on the land with all its corners, all faces up", () => {
		const { positions, normals, indices } = mesh;
		for (let i = 0; i < positions.length; i += 3) {
			expect(normals[i + 1]).toBeGreaterThan(0);
			const y = groundHeight(ridges, foot.x + positions[i], foot.z + positions[i + 2]);
			expect(Math.abs(positions[i + 1] - y)).toBeLessThan(0.01 + Math.hypot(positions[i], positions[i + 2]) * 1e-5);
		}
		for (let k = 0; k < indices.length; k += 3) {
			const [a, b, c] = [0, 1, 2].map((n) => 3 * indices[k + n]);
			const [ux, uz] = [positions[b] - positions[a], positions[b + 2] - positions[a + 2]];
			const [vx, vz] = [positions[c] - positions[a], positions[c + 2] - positions[a + 2]];
			expect(uz * vx - ux * vz).toBeGreaterThan(0);
		}
	});

	it("has a coarse form of some of its corners", () => {
		expect(coarse.positions).toBe(mesh.positions);
		expect(coarse.indices.length).toBeLessThan(mesh.indices.length / 2);
		const far = (i: number) => Math.hypot(mesh.positions[3 * i], mesh.positions[3 * i + 2]);
		const farthest = (indices: Uint32Array) => indices.reduce((most, i) => Math.max(most, far(i)), 0);
		expect(farthest(coarse.indices)).toBe(farthest(mesh.indices));
		expect(farthest(mesh.indices)).toBeGreaterThan(60_000);
	});

	it("has most of its corners where the frame sees them", () => {
		let inside = 0;
		for (let i = 0; i < mesh.positions.length; i += 3) {
			const deg = (Math.atan2(mesh.positions[i], -mesh.positions[i + 2]) * 180) / Math.PI - foot.headingDeg;
			if (Math.abs(deg - 360 * Math.round(deg / 360)) < foot.halfFieldDeg + 2) inside++;
		}
		expect(inside / (mesh.positions.length / 3)).toBeGreaterThan(0.85);
	});

	it("is the same to the byte whatever lens looked at the land before", () => {
		const again = { ...ridges };
		const other = footOver(again, 30, { x: 200, headingDeg: -100 });
		groundMeshForLens(again, water, [other], IN_HAND);
		groundMeshForLens(again, water, [{ ...foot, y: foot.y + 5 }]);
		expect(groundMeshForLens(again, water, [foot])).toEqual({ mesh, coarse });
	});

	it("has the corners of another lens near by, at the same heights", () => {
		const next = { ...foot, x: foot.x + 2.5 };
		const keys = (one: Mesh, about: LensFootprint) => {
			const all = new Map<string, number>();
			for (let i = 0; i < one.positions.length; i += 3)
				all.set(`${about.x + one.positions[i]} ${about.z + one.positions[i + 2]}`, one.positions[i + 1]);
			return all;
		};
		const [here, there] = [keys(mesh, foot), keys(groundMeshForLens(ridges, water, [next]).mesh, next)];
		const both = [...here].filter(([key]) => there.has(key));
		expect(both.length / here.size).toBeGreaterThan(0.6);
		for (const [key, y] of both) expect(there.get(key)).toBe(y);
	});
});

describe("outlines of the ground", () => {
	const headings = Array.from({ length: 10 }, (_, i) => -7 + 1.5 * i);
	for (const preset of GroundPreset.options)
		it(`of a ${preset} lie within half a pixel of the land's own`, () => {
			const ground = land(preset, preset === "plain" ? 2 : PRESETS[preset].mostM / 3);
			const foot = footOver(ground, 1.7, { halfFieldDeg: 9 });
			const mesh = outlineOf(groundMeshForLens(ground, water, [foot]).mesh, foot, headings);
			const truth = outlineOfLand(ground, foot, headings);
			const off = headings.map((_, h) => Math.abs(mesh[h] - truth[h]) / foot.pixel);
			expect(Math.max(...off)).toBeLessThan(0.5);
		});
	it("of a mesh for a whole way lie within half a pixel from each place of it", () => {
		const ground: Ground = { ...land("ridges", 120), planetKm: null };
		const feet = [0, 1, 2].map((i) =>
			footOver(ground, 1.7, { x: 30 * i, z: -20 * i, headingDeg: 12 * i, halfFieldDeg: 9 }),
		);
		const { mesh } = groundMeshForLens(ground, water, feet);
		const [ox, oz] = footOfWay(feet);
		for (const foot of feet) {
			const positions = mesh.positions.map((v, i) => v + [ox - foot.x, 0, oz - foot.z][i % 3]);
			const own = headings.map((h) => h + foot.headingDeg);
			const seen = outlineOf({ ...mesh, positions }, foot, own);
			const truth = outlineOfLand(ground, foot, own);
			for (const [h, rise] of truth.entries()) expect(Math.abs(seen[h] - rise) / foot.pixel).toBeLessThan(0.5);
		}
	});
	it("of humps are there, though they are narrower than edges, because strokes tell how small they are", () => {
		const at = Array.from({ length: 9 }, (_, i) => -6 + 1.5 * i);
		const strokes = at.map((deg) => ({
			tool: "raise" as const,
			points: [[3 + 150 * Math.sin(deg * DEG), 4 - 150 * Math.cos(deg * DEG)]] as [number, number][],
			radiusM: 0.7,
			byM: 0.9,
		}));
		const ground = land("plain", 0, [LandEntry.parse({ ...newEntry("hand", "h", 0, 0), strokes })]);
		const foot = footOver(ground, 0.5);
		const mesh = outlineOf(groundMeshForLens(ground, water, [foot]).mesh, foot, at);
		const truth = outlineOfLand(ground, foot, at);
		for (const h of at.keys()) {
			expect(truth[h] / foot.pixel).toBeGreaterThan(3);
			expect(Math.abs(mesh[h] - truth[h]) / foot.pixel).toBeLessThan(0.5);
		}
	});
});

describe("how the land is seen", () => {
	const flat = () => 0;
	const foot = { x: 0, y: 2, z: 0, headingDeg: 0, halfFieldDeg: 30, pixel: 1 / FRAME_PX };
	it("by metres a pixel, of the lens that sees it largest", () => {
		const far = sightOf([foot], 0.4, flat)(0, 0, -100, 0.1, 0);
		expect(far.metresPerPixel * FRAME_PX).toBeCloseTo(Math.hypot(100, 2) - 0.1, 6);
		const two = sightOf([foot, { ...foot, z: -60 }], 0.4, flat)(0, 0, -100, 0.1, 0);
		expect(two.metresPerPixel * FRAME_PX).toBeCloseTo(Math.hypot(40, 2) - 0.1, 6);
		expect(two.foot.z).toBe(-60);
	});
	it("in the frame, beside it, or in part", () => {
		const sees = sightOf([foot], 0.4, flat);
		expect(sees(0, 0, -100, 0.1, 0).inView).toBe(true);
		expect(sees(100, 0, -100, 0.1, 0).inView).toBe(false);
		expect(sees(100, 0, -100, 40, 0).inView).toBe(true);
		expect(sees(0, 0, 50, 10, 0).inView).toBe(false);
		expect(sees(0, 0, 50, 60, 0).inView).toBe(true);
	});
	it("not where a wall stands before it, unless it is higher", () => {
		const wall = (_: number, z: number) => (z < -40 && z > -60 ? 20 : 0);
		const sees = sightOf([foot], 0.4, wall);
		expect(sees(0, 0, -30, 1, 0).inView).toBe(true);
		expect(sees(0, 0, -300, 1, 0).inView).toBe(false);
		expect(sees(0, 150, -300, 1, 150).inView).toBe(true);
		expect(sees(0, 0, -300, 1, 150).inView).toBe(true);
	});
});
