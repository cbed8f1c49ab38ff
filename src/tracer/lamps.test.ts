import { describe, expect, it } from "vitest";
import type { Vec3 } from "../core/maths/vec.ts";
import type { Picture } from "../core/scene/picture.ts";
import * as L from "./kernel/layout.ts";
import { traceAtOnce } from "./testing.ts";
import { type Body, type TestLamp, testScene } from "./testScene.ts";

const mean = (p: Picture, from = p.rgb[0]) => from.reduce((s, v) => s + v, 0) / from.length;
const size = (extra = {}) => ({ width: 16, height: 16, seed: 1, ...extra });
/** Floor three metres below the lens, which looks straight down at a small part of it. */
const floor = (material: Body["material"] = { colour: [0.5, 0.5, 0.5], roughness: 1 }): Body => ({
	kind: "box",
	position: [0, -4, 0],
	size: [400, 1, 400],
	material,
});
const down = { pitchDeg: -89.99, focalMm: 200 };
/** Above the lens, so that it does not stand in the picture. */
const over = (height: number): Vec3 => [0, height - 3, 0];
const sunAt = (lux: number) =>
	mean(
		traceAtOnce(testScene([floor()], { camera: down, sunLux: [lux, lux, lux], sunDirection: [0, 1, 0] }), size(), 256),
	);
const lampAt = (lamps: TestLamp[], samples = 256, bodies: Body[] = []) =>
	mean(traceAtOnce(testScene([floor(), ...bodies], { camera: down, lamps }), size(), samples));

describe("a lamp above a floor lights it as a sun of its illuminance does", () => {
	it("a point of I candela at d by I/d²", () => {
		expect(lampAt([{ shape: "point", position: over(5), rgb: [800, 800, 800] }]) / sunAt(800 / 25)).toBeCloseTo(1, 2);
	});
	it("a spot on its axis likewise, and not outside its cone", () => {
		const spot: TestLamp = { shape: "spot", position: over(5), rgb: [800, 800, 800] };
		expect(lampAt([spot]) / sunAt(800 / 25)).toBeCloseTo(1, 2);
		expect(lampAt([{ ...spot, axis: [1, 0, 0] }])).toBe(0);
	});
	it("a sphere by π L r²/d²", () => {
		const [r, d] = [0.4, 5];
		expect(
			lampAt([{ shape: "sphere", position: over(d), half: [r, r], rgb: [1000, 1000, 1000] }]) /
				sunAt((Math.PI * 1000 * r * r) / d ** 2),
		).toBeCloseTo(1, 2);
	});
	it("a disc by π L r²/(d² + r²)", () => {
		const [r, d] = [0.8, 5];
		expect(
			lampAt([{ shape: "disc", position: over(d), half: [r, r], rgb: [1000, 1000, 1000] }]) /
				sunAt((Math.PI * 1000 * r * r) / (d ** 2 + r ** 2)),
		).toBeCloseTo(1, 1.9);
	});
	it("a rectangle by the form factor of its corners", () => {
		const [a, b, d] = [0.7, 0.4, 5];
		const [x, y] = [a / d, b / d];
		const [p, q] = [Math.hypot(1, x), Math.hypot(1, y)];
		const factor = 2 * ((x / p) * Math.atan(y / p) + (y / q) * Math.atan(x / q));
		expect(
			lampAt([{ shape: "rectangle", position: over(d), half: [a, b], rgb: [1000, 1000, 1000] }]) / sunAt(1000 * factor),
		).toBeCloseTo(1, 1.9);
	});
	it("a glowing ball as a sphere of its size", () => {
		const [r, d] = [0.4, 5];
		const ball: Body = {
			kind: "sphere",
			position: [0, d - 3 - r, 0],
			size: [2 * r, 2 * r, 2 * r],
			material: { colour: [0, 0, 0], metal: 1 },
			glow: [1000, 1000, 1000],
		};
		expect(lampAt([], 1024, [ball]) / sunAt((Math.PI * 1000 * r * r) / d ** 2)).toBeCloseTo(1, 1.9);
	});
	it("twice as bright gives twice the radiance, exactly", () => {
		const at = (k: number) =>
			traceAtOnce(
				testScene([floor()], { camera: down, lamps: [{ shape: "disc", position: over(4), rgb: [k, k, k] }] }),
				size(),
				32,
			).rgb[0];
		const one = at(100);
		at(200).forEach((v, i) => void expect(v).toBe(one[i] * 2));
	});
});

describe("samplings of lamps have the same mean", () => {
	const wide = { focalMm: 24, pitchDeg: -60 };
	const mirror = { roughness: 0.02, glass: { pane: true, index: 2.6, tint: [0.9, 0.9, 0.9] as Vec3 } };
	const shiny = { colour: [0.6, 0.5, 0.4] as Vec3, roughness: 0.3, metal: 0.5 };
	const cases: [string, Parameters<typeof testScene>[0], Parameters<typeof testScene>[1]][] = [
		["a sphere", [floor(shiny)], { lamps: [{ shape: "sphere", position: [0, 0.5, -3], half: [1, 1] }] }],
		[
			"a disc",
			[floor(shiny)],
			{ lamps: [{ shape: "disc", position: [0.5, 0, -3], half: [1.5, 1.5], axis: [0, -1, 0] }] },
		],
		[
			"a rectangle",
			[floor(shiny)],
			{
				lamps: [
					{
						shape: "rectangle",
						position: [0.5, 0, -3],
						half: [1.5, 0.6],
						axis: [0, -1, 0],
						right: [1, 0, 0],
						up: [0, 0, 1],
					},
				],
			},
		],
		[
			"a glowing wedge",
			[floor(shiny), { kind: "wedge", position: [-1, -2, -3], size: [1, 2, 1], glow: [1, 1, 1] }],
			{},
		],
		[
			"two spheres and a disc",
			[floor(shiny)],
			{
				lamps: [
					{ shape: "sphere", position: [1, -1.5, -3], half: [0.5, 0.5] },
					{ shape: "sphere", position: [-1, 1, -2], half: [0.9, 0.9], rgb: [3, 3, 3] },
					{ shape: "disc", position: [0, 0, -6], half: [1, 1], axis: [0, -0.6, 0.8], up: [0, 0.8, 0.6] },
				],
			},
		],
		[
			"a sphere in fog",
			[floor(shiny)],
			{
				fog: { sigma0: 0.2, y0: 1000, g: 0.4, albedo: [0.8, 0.8, 0.8] },
				lamps: [{ shape: "sphere", position: [0, -1, -4], half: [1, 1] }],
			},
		],
		[
			"a sphere over water on a pale bed",
			[floor()],
			{
				water: { levelM: -2.2, waves: [], absorbPerM: [0.1, 0.1, 0.1] },
				lamps: [{ shape: "sphere", position: [0, -0.5, -3], half: [1, 1] }],
			},
		],
		[
			"a sphere behind a tinted pane",
			[
				floor(shiny),
				{
					kind: "box",
					position: [0, -2.9, -2],
					size: [6, 3, 0.02],
					material: { roughness: 0.02, glass: { pane: true, index: 1.5, tint: [0.7, 0.7, 0.7] } },
				},
			],
			{ lamps: [{ shape: "sphere", position: [0, -1.5, -4], half: [1, 1] }] },
		],
		[
			"a sphere mirrored by two panes, its own light kept from the floor",
			[
				floor({ colour: [0.5, 0.5, 0.5], roughness: 0.8 }),
				{ kind: "box", position: [0, -2.9, -5], size: [6, 4, 0.02], material: mirror },
				{ kind: "box", position: [2, -2.9, -3], size: [0.02, 4, 5], material: mirror },
				{ kind: "box", position: [0, -1.3, -3.2], size: [2, 0.05, 2], material: { colour: [0.1, 0.1, 0.1] } },
			],
			{ lamps: [{ shape: "sphere", position: [0, -0.4, -3.2], half: [0.5, 0.5] }] },
		],
		[
			"a sphere behind a rough pane",
			[
				floor(shiny),
				{
					kind: "box",
					position: [0, -2.9, -2],
					size: [6, 3, 0.02],
					material: { roughness: 0.5, glass: { pane: true, index: 1.5, tint: [1, 1, 1] } },
				},
			],
			{ lamps: [{ shape: "sphere", position: [0, -1.5, -4], half: [1, 1] }] },
		],
		[
			"a disc over a coated floor",
			[floor({ ...shiny, coat: 0.8, coatRoughness: 0.2 })],
			{ lamps: [{ shape: "disc", position: [0, 0.5, -3], half: [1.5, 1.5] }] },
		],
	];
	for (const [name, bodies, around] of cases) {
		it(`of ${name}`, () => {
			const run = (flags: number, samples: number) =>
				mean(traceAtOnce(testScene(bodies, { ...around, camera: wide }), size({ flags }), samples));
			const both = run(0, 1024);
			expect(both).toBeGreaterThan(0);
			const found = run(L.FLAG_NO_LIGHT_SAMPLING, 2048) / both;
			expect(found).toBeGreaterThan(0.98);
			expect(found).toBeLessThan(1.02);
		});
	}
});

describe("many lamps", () => {
	const grid = (n: number, from: number): TestLamp[] =>
		Array.from({ length: n }, (_, i) => ({
			shape: i % 3 ? "point" : "spot",
			position: [((i * 7 + from) % 31) - 15, -2 + ((i * 5) % 7) * 0.5, -((i * 11 + from) % 29)],
			half: [0.1, 0.1],
			rgb: [1 + (i % 5), 1, 1],
		}));
	const run = (lamps: TestLamp[], samples: number) =>
		traceAtOnce(testScene([floor()], { camera: { pitchDeg: -20 }, lamps }), size(), samples);
	it("give the sum of what each half of them gives", () => {
		const [a, b] = [grid(500, 0), grid(500, 3)];
		expect(mean(run([...a, ...b], 512)) / (mean(run(a, 512)) + mean(run(b, 512)))).toBeCloseTo(1, 1.7);
	});
	it("are noisier than one by far less than their number", () => {
		const noise = (p: Picture) => mean(p, p.error) / mean(p);
		expect(noise(run(grid(1000, 0), 64))).toBeLessThan(8 * noise(run(grid(4, 0), 64)));
	});
});

describe("thin fog about a lamp", () => {
	it("glows by single scattering, as quadrature says", () => {
		const sigma = 2e-4;
		const [intensity, g] = [1000, 0.5];
		const at: Vec3 = [1, 0.3, -6];
		const scene = testScene([], {
			fog: { sigma0: sigma, y0: 1000, g, albedo: [1, 1, 1], skyClear: true },
			camera: { focalMm: 300 },
			lamps: [{ shape: "point", position: at, rgb: [intensity, intensity, intensity] }],
		});
		scene.root.draws.push({
			...testScene([floor()]).root.draws[0],
			transform: [40, 0, 0, 0, 0, 40, 0, -20, 0, 0, 1, -20],
		});
		scene.root.materials[0] = { colour: [0, 0, 0], roughness: 1, metal: 1, translucency: 0 };
		scene.parts.set("box", testScene([floor()]).parts.get("box") as never);
		const p = traceAtOnce(scene, size(), 2048);
		let want = 0;
		const n = 20_000;
		for (let i = 0; i < n; i++) {
			const t = ((i + 0.5) / n) * 19.5;
			const v = [at[0], at[1], at[2] + t];
			const d = Math.hypot(...v);
			const c = -v[2] / d;
			const phase = (1 - g * g) / (4 * Math.PI * (1 + g * g - 2 * g * c) ** 1.5);
			want += (19.5 / n) * sigma * Math.exp(-sigma * (t + d)) * phase * (intensity / (d * d));
		}
		expect(mean(p) / want).toBeGreaterThan(0.985);
		expect(mean(p) / want).toBeLessThan(1.015);
	});
});

describe("white furnace with glass and coats", () => {
	const white: Vec3 = [1, 1, 1];
	const ball = (material: Body["material"]): Body => ({
		kind: "sphere",
		position: [0, -1, -4],
		size: [2, 2, 2],
		material,
	});
	const furnace = (bodies: Body[], over: Parameters<typeof testScene>[1] = {}) =>
		mean(traceAtOnce(testScene(bodies, over), size({ uniformSky: white, width: 24, height: 24 }), 512));
	const glass = (roughness: number, pane = false) => ({
		roughness,
		glass: { pane, index: 1.5, tint: (pane ? [1, 1, 1] : [0, 0, 0]) as Vec3 },
	});
	const holds = (name: string, bodies: Body[], over: Parameters<typeof testScene>[1] = {}) =>
		it(`holds for ${name}`, () => {
			const v = furnace(bodies, over);
			expect(v).toBeGreaterThan(0.99);
			expect(v).toBeLessThan(1.01);
		});
	holds("a ball of clear glass", [ball(glass(0.02))]);
	holds("a ball of rough glass", [ball(glass(0.5))]);
	holds("a ball of clear glass on a white floor", [
		ball(glass(0.02)),
		{ kind: "box", position: [0, -2, 0], size: [60, 1, 60], material: { roughness: 1 } },
	]);
	const wall = (roughness: number): Body => ({
		kind: "box",
		position: [0, -1, -3],
		size: [2, 2, 0.02],
		material: glass(roughness, true),
	});
	holds("a clear pane", [wall(0.02)]);
	holds("a rough pane", [wall(0.4)]);
	holds("metal under a coat", [ball({ metal: 1, roughness: 0.4, coat: 1, coatRoughness: 0.1 })]);
	holds("a white body under half a rough coat", [ball({ roughness: 0.9, coat: 0.5, coatRoughness: 0.5 })]);
	it("holds in fog where directions are chosen about a sun as well", () => {
		const sun: Vec3 = [1e-9, 1e-9, 1e-9];
		const v = furnace([{ kind: "box", position: [0, -3, 0], size: [4000, 1, 4000], material: { roughness: 1 } }], {
			fog: { sigma0: 0.2, y0: -2, scaleM: 3, g: 0.7 },
			sunLux: sun,
			sunDirection: [0, 0.2, -0.98],
		});
		expect(v).toBeGreaterThan(0.991);
		expect(v).toBeLessThan(1.009);
	});
	it("and coloured glass takes what its depth says", () => {
		// Straight through a block of one metre with extinction 0.5: two faces of normal incidence, mirrored to and fro.
		const block: Body = {
			kind: "box",
			position: [0, -5, -3],
			size: [10, 10, 1],
			material: { ...glass(0.02), glass: { pane: false, index: 1.5, tint: [0.5, 0.5, 0.5] } },
		};
		const scene = testScene([block], { camera: { focalMm: 2000 } });
		const p = traceAtOnce(scene, size({ uniformSky: white }), 1024);
		const [F, t] = [0.04, Math.exp(-0.5)];
		expect(mean(p)).toBeCloseTo(F + ((1 - F) ** 2 * (t + F * t * t)) / (1 - F * F * t * t), 1.9);
	});
});
