import { describe, expect, it } from "vitest";
import { blankShot } from "../../../doc/defaults.ts";
import type { Ground, LandEntry } from "../../../doc/schema.ts";
import { DEG } from "../../../maths/functions.ts";
import { randomStream } from "../../../maths/hash.ts";
import type { Mesh } from "../../../maths/mesh.ts";
import { groundHeight, landPush } from "../../height.ts";
import { FINE, groundMeshForLens } from "../../meshForLens.ts";
import { footOver } from "../../testing.ts";
import { newEntry } from "../ledger.ts";

type Overhang = Extract<LandEntry, { kind: "overhang" }>;

const hanging = (over: Partial<Overhang> = {}): Overhang => ({
	...(newEntry("overhang", "o", 0, 0) as Overhang),
	outM: 4,
	everyM: 5,
	...over,
});
const cliffs = (entry?: Overhang): Ground => ({
	preset: "cliffs",
	seed: 2,
	heightM: 40,
	planetKm: null,
	ledger: entry ? [entry] : [],
});
const { water } = blankShot();

/** Places about the wall. */
function* places(count: number): Generator<[number, number]> {
	const random = randomStream(5);
	for (let i = 0; i < count; i++) yield [200 * (random() - 0.5), -90 - 130 * random()];
}

/** Heights, relative to the mesh's own, at which an upright line through a place meets triangles. */
function metUpright({ positions: p, indices }: Mesh, x: number, z: number): number[] {
	const met: number[] = [];
	for (let t = 0; t < indices.length; t += 3) {
		const [a, b, c] = [3 * indices[t], 3 * indices[t + 1], 3 * indices[t + 2]];
		const side = (i: number, j: number) => (p[j] - p[i]) * (z - p[i + 2]) - (p[j + 2] - p[i + 2]) * (x - p[i]);
		const [u, v, w] = [side(b, c), side(c, a), side(a, b)];
		if (!(u > 0 && v > 0 && w > 0) && !(u < 0 && v < 0 && w < 0)) continue;
		met.push((u * p[a + 1] + v * p[b + 1] + w * p[c + 1]) / (u + v + w));
	}
	return met.sort((q, r) => q - r);
}

describe("walls that hang over", () => {
	const entry = hanging();
	const ground = cliffs(entry);
	const foot = footOver(ground, 2);

	it("keep the heights that land has, and stand aside downhill by no more than they are told, only where it is steep", () => {
		const push = landPush(ground);
		const bare = cliffs();
		let pushed = 0;
		for (const [x, z] of places(6000)) {
			const y = groundHeight(ground, x, z);
			expect(y).toBe(groundHeight(bare, x, z));
			const aside = push?.at(x, y, z);
			const e = 0.6;
			const steepest = Math.max(
				...[0, 1, 2, 3, 4, 5, 6, 7].map((n) => {
					const [dx, dz] = [e * Math.cos(n * 45 * DEG), e * Math.sin(n * 45 * DEG)];
					return Math.abs(groundHeight(ground, x + dx, z + dz) - y) / e;
				}),
			);
			if (!aside) continue;
			pushed++;
			expect(Math.hypot(aside.x, aside.z)).toBeLessThanOrEqual(entry.outM + 1e-9);
			// Over the look from near by it is steep, so it is in some direction about the place.
			expect(steepest).toBeGreaterThan(0.5 * Math.tan((entry.fromDeg - 12) * DEG));
		}
		expect(pushed).toBeGreaterThan(300);
	});

	it("go over into each other without a step", () => {
		const push = landPush(ground);
		const at = (x: number, z: number) => push?.at(x, groundHeight(ground, x, z), z) ?? { x: 0, z: 0 };
		for (const [x, z] of places(3000)) {
			const [a, b] = [at(x, z), at(x + 1e-5, z)];
			expect(Math.hypot(a.x - b.x, a.z - b.z)).toBeLessThan(0.01);
		}
	});

	it("make a mesh that hangs over, without a crack", () => {
		const { mesh } = groundMeshForLens(ground, water, [foot], { ...FINE, most: 30_000 });
		const { positions, normals, indices } = mesh;
		const count = positions.length / 3;
		const had = new Map<number, number>();
		for (let k = 0; k < indices.length; k++) {
			const [a, b] = [indices[k], indices[k % 3 === 2 ? k - 2 : k + 1]];
			const key = Math.min(a, b) * count + Math.max(a, b);
			had.set(key, (had.get(key) ?? 0) + 1);
		}
		const far = (i: number) => Math.max(Math.abs(positions[3 * i]), Math.abs(positions[3 * i + 2]));
		for (const [key, n] of had)
			if (Math.min(far(Math.floor(key / count)), far(key % count)) < 20_000) expect(n).toBe(2);
		const down: number[] = [];
		for (let i = 0; i < count; i++) if (normals[3 * i + 1] < -0.5) down.push(i);
		expect(down.length).toBeGreaterThan(300);
		// Under a ledge there is air, and ground under that: the upright line goes in and out, and in again.
		let airM = 0;
		for (let n = 0; n < down.length; n += Math.ceil(down.length / 40)) {
			const i = 3 * down[n];
			const met = metUpright(mesh, positions[i] + 1e-3, positions[i + 2] + 2e-3);
			expect(met.length % 2).toBe(1);
			for (let k = 0; k + 1 < met.length; k += 2) airM = Math.max(airM, met[k + 1] - met[k]);
		}
		expect(airM).toBeGreaterThan(1);
	});

	it("hold where they are told, and count heights from the ground's own level", () => {
		const [x, z] = [...places(4000)].find(([px, pz]) => {
			const aside = landPush(ground)?.at(px, groundHeight(ground, px, pz), pz);
			return aside && Math.hypot(aside.x, aside.z) > 1;
		}) as [number, number];
		const of = (own: Ground) => landPush(own)?.at(x, groundHeight(own, x, z), z) ?? null;
		const lifted = { ...ground, levelM: 300 };
		const aside = of(ground);
		expect(of(lifted)?.x).toBeCloseTo(aside?.x as number, 9);
		const there = (not: boolean) =>
			cliffs(hanging({ where: [{ kind: "near a place", not, x, z, radiusM: 5, featherM: 1 }] }));
		expect(of(there(false))?.z).toBeCloseTo(aside?.z as number, 9);
		expect(of(there(true))).toBeNull();
		expect(landPush(cliffs(hanging({ out: true })))).toBeNull();
	});
});
