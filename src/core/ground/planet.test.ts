import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import type { Ground } from "../doc/schema.ts";
import { frameOfView, horizonPercent, horizonRow, rayThrough } from "../lens/camera.ts";
import { determinant, length, type Vec3 } from "../maths/vec.ts";
import { flown, viewFlown } from "./flown.ts";
import { groundMeshForLens } from "./meshForLens.ts";
import {
	dipOf,
	EARTH_M,
	horizonM,
	horizonOf,
	isLevel,
	onPlanet,
	type Planet,
	placedOn,
	planetAbout,
	seaAhead,
	sunkM,
	turnedOn,
} from "./planet.ts";
import { seaDisc } from "./seaDisc.ts";
import { footOver, outlineOf } from "./testing.ts";

const earth: Planet = { radiusM: EARTH_M, x: 256, z: -512 };
const centre: Vec3 = [256, -EARTH_M, -512];
const fromCentre = ([x, y, z]: Vec3) => Math.hypot(x - centre[0], y - centre[1], z - centre[2]);
const place = fc.tuple(
	fc.double({ min: -1e6, max: 1e6, noNaN: true }),
	fc.double({ min: -500, max: 20_000, noNaN: true }),
	fc.double({ min: -1e6, max: 1e6, noNaN: true }),
);

describe("a planet", () => {
	it("has its horizon at the distances and dips of the books", () => {
		// Height, way to the horizon (km) and dip (minutes of arc) of a sphere of 6,371 km without refraction.
		for (const [h, km, arcmin] of [
			[2, 5.048, 2.724],
			[100, 35.7, 19.26],
			[10_000, 356.7, 192.5],
		]) {
			expect(horizonM(EARTH_M, h) / 1000 / km).toBeCloseTo(1, 2.5);
			expect((dipOf(EARTH_M, h) * 180 * 60) / Math.PI / arcmin).toBeCloseTo(1, 2.5);
		}
		expect(horizonM(EARTH_M, -3)).toBe(0);
	});
	it("holds what lies on it at its height over the sea, as far away as it was", () => {
		fc.assert(
			fc.property(place, ([x, y, z]) => {
				const at = onPlanet(earth, [x, y, z]);
				expect(fromCentre(at) - EARTH_M).toBeCloseTo(y, 5);
				const away = Math.hypot(x - 256, z + 512);
				const out = Math.hypot(at[0] - 256, at[2] + 512);
				expect(Math.atan2(out, at[1] + EARTH_M) * EARTH_M).toBeCloseTo(away, 4);
			}),
		);
		expect(-onPlanet(earth, [256, 0, 9_488])[1] / sunkM(EARTH_M, 10_000)).toBeCloseTo(1, 5);
	});
	it("stands things upright on it, as large as they were", () => {
		fc.assert(
			fc.property(place, (at) => {
				fc.pre(!isLevel(earth, at));
				const m = placedOn(earth, [2, 0, 0, at[0], 0, 3, 0, at[1], 0, 0, 1, at[2]]);
				expect(determinant(m)).toBeCloseTo(6, 9);
				const up: Vec3 = [m[1] / 3, m[5] / 3, m[9] / 3];
				const foot: Vec3 = [m[3], m[7], m[11]];
				const l = fromCentre(foot);
				for (let c = 0; c < 3; c++) expect(up[c]).toBeCloseTo((foot[c] - centre[c]) / l, 9);
				expect(turnedOn(earth, at, [0, 1, 0])).toEqual(
					[m[1] / 3, m[5] / 3, m[9] / 3].map((v) => expect.closeTo(v, 12)),
				);
			}),
		);
		const still = [1, 0, 0, 5, 0, 1, 0, 6, 0, 0, 1, 7];
		expect(placedOn(null, still)).toBe(still);
	});
	it("is met by rays where the sea lies, from over it and from in it", () => {
		fc.assert(
			fc.property(
				fc.double({ min: -2000, max: 20_000, noNaN: true }),
				fc.double({ min: -1, max: 1, noNaN: true }),
				fc.double({ min: 0, max: 6.2, noNaN: true }),
				(y, dy, a) => {
					const flat = Math.sqrt(1 - dy * dy);
					const d: Vec3 = [flat * Math.cos(a), dy, flat * Math.sin(a)];
					const t = seaAhead(earth, 3, [900, y, 40], d);
					if (t === Number.POSITIVE_INFINITY) {
						expect(y).toBeGreaterThan(3);
						return;
					}
					const met: Vec3 = [900 + d[0] * t, y + d[1] * t, 40 + d[2] * t];
					expect(Math.abs(fromCentre(met) - EARTH_M - 3)).toBeLessThan(1e-3);
				},
			),
		);
		expect(seaAhead(null, 3, [0, 5, 0], [0, -0.5, 0.9])).toBe(4);
		expect(seaAhead(null, 3, [0, 5, 0], [0, 0, 1])).toBe(Number.POSITIVE_INFINITY);
	});
	it("is level near the lens, and flat where it is wanted so", () => {
		const planet = planetAbout({}, 1000, -90) as Planet;
		expect(Math.hypot(planet.x - 1000, planet.z + 90)).toBeLessThan(182);
		expect(planetAbout({ planetKm: null }, 0, 0)).toBeNull();
		// However small it is, a lens is off its level by less than 30 millionths of a radian.
		const small = planetAbout({ planetKm: 100 }, 1000, -90) as Planet;
		expect(Math.hypot(small.x - 1000, small.z + 90) / small.radiusM).toBeLessThan(3e-5);
		expect(planetAbout({ planetKm: 1737 }, 0, 0)?.radiusM).toBe(1_737_000);
	});
	it("turns a lens that goes far over it, which sees its horizon where it saw it", () => {
		const { camera } = blankShot();
		const here = { ...camera, position: [256, 300, -512] as [number, number, number], headingDeg: 40, pitchDeg: -3 };
		expect(flown(earth, here)).toBe(here);
		const far = { ...here, position: [256, 300, -80_512] as [number, number, number] };
		const there = flown(earth, far);
		expect(fromCentre(there.position) - EARTH_M).toBeCloseTo(300, 5);
		expect(there.pitchDeg).not.toBeCloseTo(-3, 1);
		// The frame that is drawn is the frame of that camera.
		const [drawn, traced] = [viewFlown(earth, frameOfView(far)), frameOfView(there)];
		for (const axis of ["right", "up", "forward", "middle", "position"] as const)
			for (let c = 0; c < 3; c++) expect(drawn[axis][c]).toBeCloseTo(traced[axis][c], 9);
		expect(viewFlown(earth, frameOfView(here))).toEqual(frameOfView(here));
		// A place before it lands where it would have landed.
		const before: Vec3 = [256 + 3000 * Math.sin(0.7), 290, -80_512 - 3000 * Math.cos(0.7)];
		const [a, b] = [onPlanet(earth, before), there.position as unknown as Vec3];
		const ray: Vec3 = [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
		const { forward } = frameOfView(there);
		const cosine = (ray[0] * forward[0] + ray[1] * forward[1] + ray[2] * forward[2]) / length(ray);
		// Ten metres lower in three kilometres, under an eye that looks down by 3°.
		expect((Math.acos(cosine) * 180) / Math.PI).toBeCloseTo(3 - (Math.atan(10 / 3000) * 180) / Math.PI, 1);
	});
});

describe("the horizon of a planet in the frame", () => {
	it("lies where directions dip as far, whatever the camera's roll", () => {
		const { camera } = blankShot();
		fc.assert(
			fc.property(
				fc.double({ min: -25, max: 25, noNaN: true }),
				fc.double({ min: -40, max: 40, noNaN: true }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				fc.double({ min: 0.0005, max: 0.1, noNaN: true }),
				(pitchDeg, rollDeg, x, dip) => {
					const view = frameOfView({ ...camera, pitchDeg, rollDeg });
					const d = rayThrough(view, x, horizonRow(view, x, dip));
					expect(Math.asin(d[1] / length(d))).toBeCloseTo(-dip, 6);
				},
			),
		);
		const view = frameOfView({ ...camera, pitchDeg: 0, rollDeg: 0 });
		expect(horizonPercent(view)).toBeCloseTo(50);
		expect(horizonPercent(view, 0.01)).toBeLessThan(50);
	});
	it("counts from the sea where there is one", () => {
		const { ground, water, camera } = blankShot();
		const at = { camera: { ...camera, position: [0, 102, 0] as [number, number, number] } };
		const sea = horizonOf({ ground, water: { ...water, on: true, levelM: 2 }, ...at });
		expect(sea.dip).toBeCloseTo(dipOf(EARTH_M, 100), 7);
		expect(sea.awayM / horizonM(EARTH_M, 100)).toBeCloseTo(1, 5);
		expect(horizonOf({ ground: { ...ground, planetKm: null }, water, ...at }).dip).toBe(0);
		expect(horizonOf({ ground: { ...ground, levelM: 200 }, water: { ...water, on: false }, ...at }).dip).toBe(0);
	});
});

describe("land on a planet", () => {
	const flat: Ground = { preset: "plain", seed: 1, heightM: 0 };
	const { water } = blankShot();
	it("ends at its horizon for lenses at 2 m, 100 m and 10 km, within 1 %", () => {
		for (const over of [2, 100, 10_000]) {
			const foot = footOver(flat, over);
			const { mesh } = groundMeshForLens(flat, water, [foot]);
			const rises = outlineOf(mesh, foot, [-20, -10, 0, 10, 20]);
			for (const rise of rises) expect(-Math.atan(rise) / dipOf(EARTH_M, over)).toBeCloseTo(1, 2);
		}
	});
	it("reaches beyond the horizon of a lens at 20 km", () => {
		const foot = footOver(flat, 20_000);
		const { mesh } = groundMeshForLens(flat, water, [foot]);
		let far = 0;
		for (let i = 0; i < mesh.positions.length; i += 3)
			far = Math.max(far, Math.hypot(mesh.positions[i], mesh.positions[i + 2]));
		expect(far).toBeGreaterThan(700_000);
		expect(mesh.indices.length / 3).toBeLessThan(420_000);
	});
	it("has the heights that flat land has", () => {
		const ground: Ground = { preset: "ridges", seed: 3, heightM: 300 };
		const foot = footOver(ground, 5, { x: 40_000, z: 300 });
		const { mesh } = groundMeshForLens(ground, water, [foot]);
		const flatter = groundMeshForLens({ ...ground, planetKm: null }, water, [foot]).mesh;
		// Near the lens the two are the same to millimetres.
		const near = (m: typeof mesh) => {
			const heights = new Map<string, number>();
			for (let i = 0; i < m.positions.length; i += 3)
				if (Math.hypot(m.positions[i], m.positions[i + 2]) < 30)
					heights.set(`${m.positions[i].toFixed(2)} ${m.positions[i + 2].toFixed(2)}`, m.positions[i + 1]);
			return heights;
		};
		const [a, b] = [near(mesh), near(flatter)];
		let same = 0;
		for (const [at, height] of a) {
			const other = b.get(at);
			if (other === undefined) continue;
			same++;
			expect(Math.abs(height - other)).toBeLessThan(0.01);
		}
		expect(same).toBeGreaterThan(100);
	});
	it("has a sea that ends there as well", () => {
		const { positions, normals, indices } = seaDisc(earth, 2);
		let least = Number.POSITIVE_INFINITY;
		for (let i = 3; i < positions.length; i += 3) {
			expect(Math.hypot(positions[i], positions[i + 1] + EARTH_M + 2, positions[i + 2]) / (EARTH_M + 2)).toBeCloseTo(
				1,
				6,
			);
			least = Math.min(least, Math.atan2(100 - positions[i + 1], Math.hypot(positions[i], positions[i + 2])));
			expect(Math.hypot(normals[i], normals[i + 1], normals[i + 2])).toBeCloseTo(1, 6);
		}
		expect(least / dipOf(EARTH_M + 2, 100)).toBeCloseTo(1, 2);
		// In the middle of an edge it lies under the sea by next to nothing, as a share of how far off that is.
		let under = 0;
		for (let k = 0; k < indices.length; k += 3)
			for (const [i, j] of [
				[0, 1],
				[1, 2],
				[2, 0],
			]) {
				const [x, y, z] = [0, 1, 2].map(
					(c) => 0.5 * (positions[3 * indices[k + i] + c] + positions[3 * indices[k + j] + c]),
				);
				const far = Math.hypot(x, z);
				if (far > 2000) under = Math.max(under, (EARTH_M + 2 - Math.hypot(x, y + EARTH_M + 2, z)) / far);
			}
		expect(under).toBeLessThan(6e-5);
		expect(indices.length / 3).toBeLessThan(20_000);
		expect(seaDisc(null, 0).positions.some((v, i) => i % 3 === 1 && v !== 0)).toBe(false);
	});
});
