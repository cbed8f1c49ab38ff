import { describe, expect, it } from "vitest";
import type { Vec3 } from "../core/maths/vec.ts";
import type { LightPlanes, Picture } from "../core/scene/picture.ts";
import { traceAtOnce } from "./testing.ts";
import { type Body, testScene } from "./testScene.ts";

const names = ["sun", "sky", "glow", "a", "b"];
const size = { width: 24, height: 24, seed: 1, uniformSky: [300, 400, 600] as Vec3 };
const floor: Body = {
	kind: "box",
	position: [0, -3, 0],
	size: [400, 1, 400],
	material: { colour: [0.5, 0.4, 0.3], roughness: 0.4 },
};
const bodies: Body[] = [
	floor,
	{ kind: "box", position: [1, -2, -6], size: [1, 2, 1], material: { roughness: 0.2, metal: 1 } },
	{
		kind: "box",
		position: [-1, -2, -5],
		size: [1.4, 2, 0.05],
		material: { roughness: 0.02, glass: { pane: true, index: 1.5, tint: [0.9, 0.95, 0.9] } },
	},
	{
		kind: "sphere",
		position: [0, -2, -4],
		size: [0.4, 0.4, 0.4],
		material: { colour: [0, 0, 0], metal: 1 },
		glow: [900, 500, 200],
	},
];
const scene = () =>
	testScene(bodies, {
		sunLux: [20_000, 18_000, 15_000],
		sunDirection: [0.4, 0.8, -0.4472136],
		fog: { sigma0: 0.05, y0: -1, scaleM: 3, g: 0.6, albedo: [0.95, 0.9, 0.9] },
		water: { levelM: -2.3, waves: [], absorbPerM: [0.3, 0.2, 0.1] },
		lamps: [
			{ shape: "sphere", position: [2, 0, -5], half: [0.2, 0.2], rgb: [8000, 6000, 3000] },
			{ shape: "spot", position: [-2, 1, -5], rgb: [3000, 3000, 9000], layer: 4 },
		],
		camera: { pitchDeg: -10 },
	});
const lit = (p: Picture) => p.light as LightPlanes;

describe("layers of light", () => {
	const p = traceAtOnce(scene(), size, 64, names);

	it("sum to the picture, pixel by pixel, with fog, water, glass, glow and lamps in it", () => {
		for (let c = 0; c < 3; c++) {
			for (let i = 0; i < p.rgb[c].length; i++) {
				const sum = lit(p).lights.reduce((s, l) => s + l.rgb[c][i], 0);
				expect(Math.abs(sum - p.rgb[c][i])).toBeLessThanOrEqual(2e-5 * p.rgb[c][i] + 1e-6);
			}
		}
		for (const { name, rgb } of lit(p).lights) expect([name, rgb[1].some((v) => v > 0)]).toEqual([name, true]);
	});

	it("change nothing in the picture", () => {
		expect(traceAtOnce(scene(), size, 64).rgb).toEqual(p.rgb);
	});

	it("each hold the light of that source alone", () => {
		const alone = scene();
		alone.root.lights = [alone.root.lights[2]];
		alone.root.draws = alone.root.draws.slice(0, bodies.length).map(({ light: _, ...draw }) => draw);
		alone.root.dome.sunLux = [0, 0, 0];
		const spot = traceAtOnce(alone, { ...size, uniformSky: [0, 0, 0] }, 1024);
		const mean = (v: Float32Array) => v.reduce((s, x) => s + x, 0) / v.length;
		const many = traceAtOnce(scene(), size, 1024, names);
		expect(mean(lit(many).lights[4].rgb[2]) / mean(spot.rgb[2])).toBeCloseTo(1, 1.3);
	});

	it("have no more fog than the picture, none without it, and all of it in a picture of fog alone", () => {
		lit(p).fog.forEach((plane, c) =>
			plane.forEach((v, i) => void expect(v).toBeLessThanOrEqual(p.rgb[c][i] * 1.00001 + 1e-6)),
		);
		expect(lit(p).fog[1].some((v) => v > 0)).toBe(true);
		const clear = traceAtOnce(testScene([floor], { sunLux: [1000, 1000, 1000] }), size, 16, names.slice(0, 3));
		expect(lit(clear).fog[1].some((v) => v > 0)).toBe(false);
		const thick = traceAtOnce(
			testScene([], {
				sunLux: [1000, 1000, 1000],
				fog: { sigma0: 30, y0: 5, scaleM: 1, albedo: [0.5, 0.5, 0.5] },
				camera: { pitchDeg: -60 },
			}),
			size,
			16,
			names.slice(0, 3),
		);
		thick.rgb[1].forEach((v, i) => void expect(lit(thick).fog[1][i]).toBeCloseTo(v, 4));
	});

	it("tell how open a place is: a bare floor wholly, the foot of a wall by half, the sky wholly", () => {
		const bare = traceAtOnce(testScene([floor], { camera: { pitchDeg: -60 } }), size, 64, names.slice(0, 3));
		expect(lit(bare).openness.every((v) => v === 1)).toBe(true);
		const wall = testScene(
			[
				{ ...floor, material: {} },
				{ kind: "box", position: [0, -2, -6], size: [40, 20, 1] },
			],
			{ camera: { pitchDeg: -20.2, focalMm: 400 } },
		);
		const foot = lit(traceAtOnce(wall, size, 256, names.slice(0, 3))).openness;
		const open = foot.reduce((s, v) => s + v, 0) / foot.length;
		expect(open).toBeGreaterThan(0.45);
		expect(open).toBeLessThan(0.8);
		const sky = lit(traceAtOnce(testScene([], { camera: { pitchDeg: 60 } }), size, 16, names.slice(0, 3))).openness;
		expect(sky.every((v) => v === 1)).toBe(true);
	});
});

describe("what is seen through glass", () => {
	const size = { width: 16, height: 16, seed: 1, uniformSky: [1000, 1000, 1000] as Vec3 };
	const wall: Body = {
		kind: "box",
		position: [0, -20, -8],
		size: [60, 40, 1],
		material: { colour: [0.5, 0.25, 0.125], roughness: 1 },
	};
	const glass = (pane: boolean, tint: Vec3): Body => ({
		kind: "box",
		position: [0, -5, -3],
		size: [10, 10, pane ? 0.02 : 1],
		material: { roughness: 0.02, glass: { pane, index: 1.5, tint } },
	});
	const middle = (bodies: Body[], samples = 16) => {
		const p = traceAtOnce(testScene(bodies), size, samples);
		return p.albedo.map((c) => c[8 * 16 + 8]);
	};

	it("is the colour of what stands behind a pane, less what the pane keeps", () => {
		const [r, g, b] = middle([wall, glass(true, [1, 1, 1])]);
		// Two faces of 4 %, with the light between them: 92.3 %.
		expect(r).toBeCloseTo(0.5 * 0.923, 2);
		expect(g / r).toBeCloseTo(0.5, 3);
		expect(b / r).toBeCloseTo(0.25, 3);
	});
	it("and of what stands behind a body of coloured glass", () => {
		const [r, g] = middle([wall, glass(false, [1, 0.2, 0.2])]);
		expect(r).toBeCloseTo(0.5 * Math.exp(-1), 1.5);
		expect(g).toBeCloseTo(0.25 * Math.exp(-0.2), 1.5);
	});
	it("is nothing where it is the sky", () => {
		expect(middle([glass(true, [1, 1, 1])])).toEqual([0, 0, 0]);
	});
	it("holds both what a pane mirrors and what it lets through in every sample", () => {
		// A black wall seen through a pane that mirrors an even sky. Left to chance between the two, 16 samples would scatter by some 40 %,
		// and the darkest of a hundred pixels be next to nothing; what is left to chance is what the wall's own gloss mirrors.
		const dark: Body = { ...wall, material: { colour: [0, 0, 0], roughness: 1 } };
		const { rgb } = traceAtOnce(testScene([dark, glass(true, [1, 1, 1])]), size, 16);
		const values = [...rgb[1].subarray(4 * 16, 12 * 16)].sort((x, y) => x - y);
		expect(values[0] / values[values.length >> 1]).toBeGreaterThan(0.8);
	});
});
