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
