import { describe, expect, it } from "vitest";
import { frameOfView, project } from "../core/lens/camera.ts";
import type { Vec3 } from "../core/maths/vec.ts";
import { emptyPicture, namedPlanes, type Picture, placeTile, type TileSums, tilesOf } from "../core/scene/picture.ts";
import * as L from "./kernel/layout.ts";
import { renderTile } from "./renderTile.ts";
import { traceAtOnce, tracerForTest } from "./testing.ts";
import { type Body, testScene } from "./testScene.ts";

const mean = (plane: Float32Array, keep: (i: number) => boolean = () => true) => {
	let sum = 0;
	let n = 0;
	plane.forEach((v, i) => {
		if (!keep(i)) return;
		sum += v;
		n++;
	});
	return sum / n;
};

const small = (extra = {}) => ({ width: 24, height: 24, seed: 1, ...extra });
const white: Vec3 = [1, 1, 1];
/** A sphere that fills the middle of the frame. */
const ball = (material: Body["material"]): Body => ({
	kind: "sphere",
	position: [0, -1, -4],
	size: [2, 2, 2],
	material,
});
const onBall = (p: Picture) => (i: number) => p.id[i] === 3 && p.albedo[0][i] === 1;

describe("white furnace", () => {
	for (const metal of [0, 1]) {
		for (const roughness of [0.05, 0.3, 0.6, 1]) {
			it(`holds for ${metal ? "metal" : "a dielectric"} of albedo 1 and roughness ${roughness}`, () => {
				const p = traceAtOnce(testScene([ball({ metal, roughness })]), small({ uniformSky: white }), 512);
				expect(mean(p.rgb[0], onBall(p))).toBeGreaterThan(0.99);
				expect(mean(p.rgb[0], onBall(p))).toBeLessThan(1.01);
			});
		}
	}
	it("holds for a leaf that lets half of the light through", () => {
		const p = traceAtOnce(
			testScene([
				{ kind: "box", position: [0, -2, -4], size: [4, 4, 0.01], material: { translucency: 0.5, roughness: 0.7 } },
			]),
			small({ uniformSky: white }),
			512,
		);
		expect(mean(p.rgb[0])).toBeCloseTo(1, 1.5);
	});
	it("holds in height fog of albedo 1 over a white floor", () => {
		const scene = testScene(
			[{ kind: "box", position: [0, -3, 0], size: [4000, 1, 4000], material: { roughness: 1 } }],
			{
				fog: { sigma0: 0.2, y0: -2, scaleM: 3, g: 0.6 },
			},
		);
		const p = traceAtOnce(scene, small({ uniformSky: white }), 256);
		expect(mean(p.rgb[1])).toBeGreaterThan(0.985);
		expect(mean(p.rgb[1])).toBeLessThan(1.015);
	});
});

describe("a Lambert plane under the sun", () => {
	it("has the luminance ρ·E·cosθ/π of its body", () => {
		const theta = (60 * Math.PI) / 180;
		const scene = testScene(
			[{ kind: "box", position: [0, -3, 0], size: [400, 1, 400], material: { colour: [0.5, 0.5, 0.5], roughness: 1 } }],
			{
				sunLux: [10_000, 10_000, 10_000],
				sunDirection: [Math.sin(theta), Math.cos(theta), 0],
				camera: { pitchDeg: -89 },
			},
		);
		const p = traceAtOnce(scene, small(), 64);
		const lambert = (0.5 * 10_000 * Math.cos(theta)) / Math.PI;
		// The interface of index 1.5 takes and gives a few percent; the body alone is Lambert.
		expect(mean(p.rgb[0]) / lambert).toBeGreaterThan(0.93);
		expect(mean(p.rgb[0]) / lambert).toBeLessThan(1.12);
	});
	it("gives twice the radiance for twice the light, exactly", () => {
		const at = (lux: number) =>
			traceAtOnce(
				testScene([ball({ roughness: 0.4 })], { sunLux: [lux, lux, lux], sunDirection: [0.6, 0.64, 0.48] }),
				small(),
				32,
			).rgb[0];
		const one = at(1000);
		const two = at(2000);
		two.forEach((v, i) => void expect(v).toBe(one[i] * 2));
	});
});

describe("what is seen first, as a colour", () => {
	it("is the surface's own, and of the sky its light over that of a white ground under it", () => {
		const grey = testScene([ball({ colour: [0.3, 0.4, 0.5], roughness: 1 })]);
		for (const sky of [0.2, 5000]) {
			const p = traceAtOnce(grey, small({ uniformSky: [sky, sky, sky] }), 16);
			const middle = Math.floor(p.albedo[0].length / 2 + p.width / 2);
			[0.3, 0.4, 0.5].forEach((v, c) => void expect(p.albedo[c][middle]).toBeCloseTo(v, 5));
			// The ball lies before the middle; the corner is sky, as bright as white under itself.
			expect(p.albedo[1][0]).toBeCloseTo(1, 2);
		}
		const sunny = { sunLux: [Math.PI, Math.PI, Math.PI] as Vec3, sunDirection: [0, 1, 0] as Vec3 };
		const p = traceAtOnce(testScene([ball({})], sunny), small({ uniformSky: white }), 16);
		expect(p.albedo[1][0]).toBeCloseTo(0.5, 2);
		// Without any light of sky and sun nothing is divided by nothing.
		const night = traceAtOnce(grey, small({ uniformSky: [0, 0, 0] }), 4);
		expect(night.albedo[1][0]).toBe(0);
	});
});

describe("samplings of one thing have the same mean", () => {
	it("light only, surface only and both, under sky and sun", () => {
		const scene = testScene([
			ball({ roughness: 0.35, metal: 0.4, colour: [0.7, 0.6, 0.5] }),
			{ kind: "box", position: [0, -2, 0], size: [30, 1, 30], material: { colour: [0.5, 0.5, 0.5], roughness: 1 } },
		]);
		const run = (flags: number) => mean(traceAtOnce(scene, small({ uniformSky: white, flags }), 512).rgb[0]);
		const both = run(0);
		expect(run(L.FLAG_NO_LIGHT_SAMPLING) / both).toBeCloseTo(1, 1.8);
		expect(run(L.FLAG_NO_SURFACE_LIGHT) / both).toBeCloseTo(1, 1.8);
	});
});

/** Share of the sphere that a wall takes at a place before it, by how far it reaches each way (Van Oosterom). */
const shareOfWall = (left: number, right: number, up: number, down: number, before: number): number => {
	const corner = (a: number, b: number) => Math.atan2(a * b, before * Math.hypot(a, b, before));
	return (corner(left, up) + corner(left, down) + corner(right, up) + corner(right, down)) / (4 * Math.PI);
};

describe("fog", () => {
	const wall: Body = {
		kind: "box",
		position: [0, -50, -41],
		size: [200, 100, 2],
		material: { colour: [0, 0, 0], roughness: 1, metal: 1 },
	};
	it("of albedo 0 leaves exp(−σd) of the light behind it", () => {
		const sigma = 0.02;
		const scene = testScene([{ kind: "sphere", position: [0, -0.2, 200], size: [0.1, 0.1, 0.1] }], {
			fog: { sigma0: sigma, y0: 1000, scaleM: 1, albedo: [0, 0, 0] },
			camera: { pitchDeg: 89 },
		});
		// Straight up through 1,000 m of even fog to a sky of luminance 1 is opaque; a short column is not.
		const low = { ...scene, root: { ...scene.root, fog: { ...scene.root.fog, y0: 30, scaleM: 0.001 } } };
		const p = traceAtOnce(low, { ...small({ uniformSky: white }), width: 8, height: 8 }, 4096);
		const view = frameOfView({ ...low.root.camera });
		let want = 0;
		for (let j = 0; j < 8; j++)
			for (let i = 0; i < 8; i++) {
				const a = (2 * (i + 0.5)) / 8 - 1;
				const b = 1 - (2 * (j + 0.5)) / 8;
				const d = view.forward.map((v, c) => v + a * view.tanX * view.right[c] + b * view.tanY * view.up[c]);
				want += Math.exp((-sigma * 30 * Math.hypot(...d)) / d[1]) / 64;
			}
		expect(mean(p.rgb[0]) / want).toBeCloseTo(1, 1.7);
	});
	it("leaves the sky alone where asked", () => {
		const p = traceAtOnce(
			testScene([wall], { fog: { sigma0: 0.05, skyClear: true }, camera: { pitchDeg: 80 } }),
			small({ uniformSky: white }),
			16,
		);
		expect(mean(p.rgb[0])).toBe(1);
	});
	it("glows before a black wall as much as single scattering says while it is thin", () => {
		const sigma = 1e-4;
		const scene = testScene([wall], { fog: { sigma0: sigma, skyClear: true, albedo: [0.5, 0.5, 0.5] } });
		const p = traceAtOnce(scene, small({ uniformSky: white }), 4096);
		// A black metal still mirrors a little at grazing angles.
		const wallAlone = traceAtOnce(testScene([wall]), small({ uniformSky: white }), 4096);
		// Uniform sky over the whole sphere less the wall's share, about isotropic: L = albedo·σ·∫(1 − share) along the ray.
		const view = frameOfView(scene.root.camera);
		let want = 0;
		const steps = 40;
		for (let j = 0; j < 24; j++)
			for (let i = 0; i < 24; i++) {
				const a = ((2 * (i + 0.5)) / 24 - 1) * view.tanX;
				const b = (1 - (2 * (j + 0.5)) / 24) * view.tanY;
				const long = Math.hypot(a, b, 1);
				for (let k = 0; k < steps; k++) {
					const z = (40 * (k + 0.5)) / steps;
					const share = shareOfWall(100 - a * z, 100 + a * z, 50 - b * z, 50 + b * z, 40 - z);
					want += (0.5 * sigma * (1 - share) * 40 * long) / steps / 24 ** 2;
				}
			}
		const glow = mean(p.rgb[0]) - mean(wallAlone.rgb[0]);
		expect(glow / want).toBeGreaterThan(0.97);
		expect(glow / want).toBeLessThan(1.03);
	});
});

describe("places", () => {
	it.each([undefined, [5, -4] as [number, number]])(
		"a world point lands on the pixel that the lens says, within half a pixel, film shifted by %j",
		(shiftMm) => {
			const at: Vec3 = [1.3, 0.4, -7];
			const scene = testScene(
				[{ kind: "sphere", position: [at[0], at[1] - 0.1, at[2]], size: [0.2, 0.2, 0.2], material: {} }],
				{
					camera: { headingDeg: 4, pitchDeg: -3, rollDeg: 5, shiftMm },
				},
			);
			const p = traceAtOnce(scene, { width: 200, height: 200, seed: 3 }, 16);
			let x = 0;
			let y = 0;
			let n = 0;
			p.albedo[0].forEach((v, i) => {
				x += v * ((i % 200) + 0.5);
				y += v * (Math.floor(i / 200) + 0.5);
				n += v;
			});
			const want = project(frameOfView(scene.root.camera), at);
			expect(Math.abs(x / n - want.x * 200)).toBeLessThan(0.5);
			expect(Math.abs(y / n - want.y * 200)).toBeLessThan(0.5);
			const middle = Math.floor(want.y * 200) * 200 + Math.floor(want.x * 200);
			expect(p.depth[middle]).toBeCloseTo(want.depthM - 0.1, 1);
		},
	);
});

describe("still water", () => {
	const water = { levelM: -1, waves: [], absorbPerM: [0, 0, 0] as Vec3 };
	it("mirrors the sky by Fresnel's share over a black bed", () => {
		const bed: Body = {
			kind: "box",
			position: [0, -3, 0],
			size: [4000, 1, 4000],
			material: { colour: [0, 0, 0], roughness: 1, metal: 1 },
		};
		const p = traceAtOnce(
			testScene([bed], { water, camera: { pitchDeg: -30, focalMm: 600 } }),
			small({ uniformSky: white }),
			1024,
		);
		const c = Math.sin((30 * Math.PI) / 180);
		const t = Math.sqrt(1 - (1 - c * c) / 1.33 ** 2);
		const rs = (c - 1.33 * t) / (c + 1.33 * t);
		const rp = (1.33 * c - t) / (1.33 * c + t);
		expect(mean(p.rgb[0]) / ((rs * rs + rp * rp) / 2)).toBeCloseTo(1, 1.5);
	});
	it("neither gains nor loses light over a white bed", () => {
		const bed: Body = { kind: "box", position: [0, -3, 0], size: [8000, 1, 8000], material: { roughness: 1 } };
		const p = traceAtOnce(
			testScene([bed], { water, camera: { pitchDeg: -35, focalMm: 100 } }),
			small({ uniformSky: white }),
			1024,
		);
		expect(mean(p.rgb[0])).toBeGreaterThan(0.98);
		expect(mean(p.rgb[0])).toBeLessThan(1.02);
	});
});

describe("samples", () => {
	const scene = testScene([ball({ roughness: 0.5 })], { sunLux: [5, 5, 5] });
	const trace = (seed: number, side: number, slices: number[]): Picture => {
		const { memory, kernel, store, desk } = tracerForTest();
		store.load(scene, { width: 40, height: 40, seed, uniformSky: white });
		const picture = emptyPicture(40, 40);
		for (const tile of tilesOf(40, 40, side)) {
			let sums: TileSums | undefined;
			for (const [i, end] of slices.entries())
				sums =
					renderTile(kernel, memory.memory.buffer, store.header, desk, tile, slices[i - 1] ?? 0, end, sums) ??
					undefined;
			placeTile(picture, tile, sums as TileSums);
		}
		return picture;
	};
	const planes = (p: Picture) => namedPlanes(p).map(({ name, data }) => [name, data] as const);
	const once = trace(9, 128, [48]);

	it.each([
		[40, [16, 32, 48]],
		[13, [48]],
		[16, [16, 48]],
		[7, [1, 5, 21, 32, 47, 48]],
	])("are the same in tiles of %i pixels and in slices that end at %j", (side, slices) => {
		expect(planes(trace(9, side, slices))).toEqual(planes(once));
	});
	it("are others for another seed", () => {
		expect(trace(10, 128, [48]).rgb).not.toEqual(once.rgb);
	});
});
