/** Water that lies in the land beside the level plane of the sea: the same picture, made in two ways. */
import { describe, expect, it } from "vitest";
import { ripples } from "../core/ground/ripples.ts";
import { surfaceMesh } from "../core/ground/water/body.ts";
import type { Vec3 } from "../core/maths/vec.ts";
import { materialTable } from "../core/scene/materialTable.ts";
import type { Scene } from "../core/scene/scene.ts";
import { traceAtOnce } from "./testing.ts";
import { type Body, testScene } from "./testScene.ts";

const LEVEL = -1;
const waves = ripples(8, 3);
const absorbPerM: Vec3 = [0.9, 0.5, 0.6];
const bodies: Body[] = [
	{ kind: "box", position: [0, -3, 0], size: [400, 1, 400], material: { colour: [0.7, 0.6, 0.5], roughness: 0.9 } },
	// One stands in it, one beside it.
	{
		kind: "box",
		position: [-0.8, -2, -6],
		size: [0.6, 2.5, 0.6],
		material: { colour: [0.8, 0.2, 0.1], roughness: 0.7 },
	},
	{
		kind: "sphere",
		position: [1, -1.2, -7],
		size: [1.2, 1.2, 1.2],
		material: { colour: [0.2, 0.5, 0.8], roughness: 0.4 },
	},
];
const over = {
	sunLux: [9, 8, 6] as Vec3,
	sunDirection: [0.48, 0.6, -0.64] as Vec3,
	camera: { pitchDeg: -14, focalMm: 40 },
};

const sea = (): Scene => testScene(bodies, { ...over, water: { levelM: LEVEL, waves, absorbPerM } });

function pond(): Scene {
	const scene = testScene(bodies, { ...over, water: { levelM: null, waves, absorbPerM } });
	const half = 180;
	const mesh = surfaceMesh([-half, 0, half, half, 0, half, half, 0, -half, -half, 0, -half], [0, 1, 2, 0, 2, 3]);
	scene.parts.set("pond", { kind: "mesh", key: "pond", mesh });
	const glass = { pane: false, index: 1.33, tint: absorbPerM, water: true };
	scene.root.materials.push({ colour: [1, 1, 1], roughness: 0, metal: 0, translucency: 0, glass });
	scene.root.draws.push({
		mesh: "pond",
		transform: [1, 0, 0, 0, 0, 1, 0, LEVEL, 0, 0, 1, 0],
		material: scene.root.materials.length - 1,
		id: 2,
	});
	return scene;
}

const SIZE = { width: 32, height: 24, seed: 4, uniformSky: [0.5, 0.7, 1] as Vec3 };

describe("water that lies in the land", () => {
	const [a, b] = [traceAtOnce(sea(), SIZE, 512), traceAtOnce(pond(), SIZE, 512)];
	it("is seen at the same places and distances as a level plane of its height", () => {
		// Not as far as the end of the surface that lies in the land.
		const near = [...a.id.keys()].filter((i) => a.depth[i] < 15);
		expect(near.map((i) => b.id[i])).toEqual(near.map((i) => a.id[i]));
		const wet = near.filter((i) => a.id[i] === 2);
		expect(wet.length).toBeGreaterThan(100);
		for (const i of wet) {
			expect(Math.abs(b.depth[i] - a.depth[i])).toBeLessThan(0.01);
			expect(Math.abs(b.normal[1][i] - a.normal[1][i])).toBeLessThan(0.01);
		}
	});
	it("gives the same light in each part of the picture", () => {
		// Of the sea the sun's light that it throws on what stands beside it is joined in another way.
		const part = (p: typeof a, c: number, x0: number, y0: number) => {
			let sum = 0;
			for (let y = y0; y < y0 + 8; y++) for (let x = x0; x < x0 + 8; x++) sum += p.rgb[c][y * 32 + x];
			return sum / 64;
		};
		for (const y of [0, 8, 16])
			for (const x of [0, 8, 16, 24])
				for (const c of [0, 1, 2]) expect(part(b, c, x, y) / part(a, c, x, y), `${x} ${y} ${c}`).toBeCloseTo(1, 1.3);
	});
	it("is a kind of glass of its own in the table of materials", () => {
		const { materials } = pond().root;
		expect(materialTable(materials)[20 * (materials.length - 1) + 8]).toBe(3);
	});
});

describe("water that runs", () => {
	/** Seen from above: a sheet that falls towards the lower edge of the picture by a slope. */
	const sheet = (slope: number, runs: number, timeS = 0) => {
		const scene = testScene([], {
			camera: { position: [0, 2, 0], pitchDeg: -89, focalMm: 24 },
			water: { levelM: null, waves: [], absorbPerM },
		});
		const fall = 50 * slope;
		const mesh = surfaceMesh([-50, -fall, 50, 50, -fall, 50, 50, fall, -50, -50, fall, -50], [0, 1, 2, 0, 2, 3]);
		scene.parts.set("sheet", { kind: "mesh", key: "sheet", mesh });
		const glass = { pane: false, index: 1.33, tint: absorbPerM, water: true, runs };
		scene.root.materials.push({ colour: [1, 1, 1], roughness: 0, metal: 0, translucency: 0, glass });
		scene.root.draws.push({
			mesh: "sheet",
			transform: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0],
			material: scene.root.materials.length - 1,
			id: 2,
		});
		if (scene.root.water) scene.root.water.timeS = timeS;
		const { normal } = traceAtOnce(scene, { width: 64, height: 64, seed: 1, uniformSky: [1, 1, 1] }, 4);
		const mean = normal[0].reduce((sum, v) => sum + v, 0) / 4096;
		const off = normal[0].map((v) => v - mean);
		const deviation = Math.sqrt(off.reduce((sum, v) => sum + v * v, 0) / 4096);
		/** How alike the tilt is some pixels farther across and along. */
		const alike = (dx: number, dy: number) => {
			let sum = 0;
			for (let y = 0; y < 56; y++) for (let x = 0; x < 56; x++) sum += off[y * 64 + x] * off[(y + dy) * 64 + x + dx];
			return sum / 3136 / (deviation * deviation);
		};
		return { normal, deviation, across: alike(5, 0), along: alike(0, 5) };
	};
	it("has streaks along the stream, steeper the faster it is, and none where it stands", () => {
		const [slow, fast] = [sheet(0.002, 15), sheet(0.03, 15)];
		expect(slow.deviation).toBeGreaterThan(0.004);
		expect(fast.deviation).toBeGreaterThan(2 * slow.deviation);
		expect(fast.deviation).toBeLessThan(0.25);
		expect(fast.along).toBeGreaterThan(fast.across + 0.2);
		expect(sheet(0.03, 0).deviation).toBeLessThan(1e-4);
		expect(sheet(0, 15).deviation).toBeLessThan(1e-4);
	});
	it("goes along with the time", () => {
		const differ = (a: Float32Array, b: Float32Array) => a.reduce((sum, v, i) => sum + Math.abs(v - b[i]), 0) / 4096;
		const [first, again, later] = [sheet(0.03, 15), sheet(0.03, 15), sheet(0.03, 15, 0.2)];
		expect(differ(first.normal[0], again.normal[0])).toBe(0);
		expect(differ(first.normal[0], later.normal[0])).toBeGreaterThan(0.3 * first.deviation);
	});
});
