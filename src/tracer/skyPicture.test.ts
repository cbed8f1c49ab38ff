import { describe, expect, it } from "vitest";
import { sunDirection } from "../core/air/dome.ts";
import { makeSkyTable, pictureLuminance, readSky, towards } from "../core/air/skyPicture.ts";
import { DEG } from "../core/maths/functions.ts";
import { randomStream } from "../core/maths/hash.ts";
import type { Vec3 } from "../core/maths/vec.ts";
import type { Picture } from "../core/scene/picture.ts";
import type { Scene } from "../core/scene/scene.ts";
import * as L from "./kernel/layout.ts";
import { traceAtOnce, tracerForTest } from "./testing.ts";
import { type Body, testScene } from "./testScene.ts";

type Look = (d: Vec3) => number[];

/** Hangs a picture around a test scene; its light on level ground is `lux`. */
function hang(scene: Scene, look: Look, { lux = 1000, turn = 0, width = 256, saturation = 1 } = {}): Scene {
	const rgb = new Float32Array(width * (width / 2) * 3);
	for (let y = 0; y < width / 2; y++)
		for (let x = 0; x < width; x++)
			rgb.set(look(towards((x + 0.5) / width, (y + 0.5) / (width / 2))), (y * width + x) * 3);
	const { table } = makeSkyTable(width, width / 2, rgb);
	const r = readSky(table);
	scene.parts.set("texels", { kind: "texels", key: "texels", data: r.texels });
	scene.parts.set("nodes", { kind: "table", key: "nodes", data: r.nodes });
	scene.parts.set("sums", { kind: "table", key: "sums", data: r.sums });
	scene.parts.set("ring", { kind: "table", key: "ring", data: r.ring });
	const { columns, rows } = r;
	scene.root.dome.grid = "sums";
	if (r.sun) {
		scene.root.dome.sunDirection = sunDirection({ ...r.sun, headingDeg: r.sun.headingDeg + turn * 360 });
		scene.root.dome.sunLux = r.sun.rgb.map((v) => (v * lux) / r.level) as unknown as Vec3;
	}
	scene.root.dome.picture = {
		texels: "texels",
		nodes: "nodes",
		ring: "ring",
		small: "small",
		width: table.width,
		height: table.height,
		columns,
		rows,
		turn,
		gain: lux / r.level,
		saturation,
		ownSun: false,
	};
	return scene;
}

const even: Look = () => [1, 1, 1];
const near = (d: Vec3, to: Vec3, deg: number) => d[0] * to[0] + d[1] * to[1] + d[2] * to[2] > Math.cos(deg * DEG);
/** A broad sun, so that chance meets it often enough. */
const broad: Look = (d) =>
	near(d, [0.3, 0.85, -0.43], 14) ? [60, 50, 40] : d[1] < 0 ? [0.1, 0.1, 0.1] : [0.5, 0.8, 1.6];
/** A dim blue sky, dark ground, and, taken out of it, a sun of two degrees of 20,000 times its luminance. */
const sunny: Look = (d) =>
	near(d, [0.6, 0.64, -0.48], 1) ? [20_000, 19_000, 15_000] : d[1] < 0 ? [0.05, 0.04, 0.03] : [0.5, 0.8, 1.6];
const mean = (p: Picture, c = 0) => p.rgb[c].reduce((s, v) => s + v, 0) / p.rgb[c].length;
const size = (extra = {}) => ({ width: 16, height: 16, seed: 1, ...extra });
const floor = (material: Body["material"] = { colour: [0.5, 0.5, 0.5], roughness: 1 }): Body => ({
	kind: "box",
	position: [0, -4, 0],
	size: [400, 1, 400],
	material,
});
const down = { pitchDeg: -89.99, focalMm: 200 };

describe("a sky picture", () => {
	it("gives level ground the lux that are asked for", () => {
		for (const look of [even, sunny]) {
			const p = traceAtOnce(hang(testScene([floor()], { camera: down }), look, { lux: 12_000 }), size(), 1024);
			const grey = 0.2126 * mean(p, 0) + 0.7152 * mean(p, 1) + 0.0722 * mean(p, 2);
			const bare = traceAtOnce(testScene([floor()], { camera: down, sunLux: [12_000, 12_000, 12_000] }), size(), 64);
			expect(grey / mean(bare)).toBeCloseTo(1, 1.7);
		}
	});

	it("holds the furnace for a rough ball, a mirror, and fog over a floor", () => {
		const lux = Math.PI;
		const ball = (material: Body["material"]): Body => ({
			kind: "sphere",
			position: [0, -1, -4],
			size: [2, 2, 2],
			material,
		});
		for (const material of [{ roughness: 1 }, { roughness: 0.3, metal: 1 }])
			expect(mean(traceAtOnce(hang(testScene([ball(material)]), even, { lux }), size(), 256))).toBeCloseTo(1, 1.9);
		const fog = testScene([{ kind: "box", position: [0, -3, 0], size: [4000, 1, 4000], material: { roughness: 1 } }], {
			fog: { sigma0: 0.2, y0: -2, scaleM: 3, g: 0.6 },
		});
		expect(mean(traceAtOnce(hang(fog, even, { lux }), size(), 256))).toBeCloseTo(1, 1.7);
	});

	it("is chosen in proportion to its light: a floor under it has hardly any noise", () => {
		const p = traceAtOnce(hang(testScene([floor()], { camera: down }), sunny, { width: 512 }), size(), 64);
		const m = mean(p, 1);
		const spread = Math.sqrt(p.rgb[1].reduce((s, v) => s + (v - m) ** 2, 0) / p.rgb[1].length);
		expect(spread / m).toBeLessThan(0.03);
	});

	const cases: [string, Body[], Parameters<typeof testScene>[1]][] = [
		["a shiny floor", [floor({ colour: [0.6, 0.5, 0.4], roughness: 0.3, metal: 0.5 })], {}],
		["fog", [floor()], { fog: { sigma0: 0.1, y0: -2, scaleM: 3, g: 0.5 } }],
		["water", [floor()], { water: { levelM: -2, waves: [], absorbPerM: [0.2, 0.1, 0.05] } }],
		[
			"a pane",
			[
				floor(),
				{
					kind: "box",
					position: [0, -2, 0],
					size: [9, 0.02, 9],
					material: { roughness: 0.02, glass: { pane: true, index: 1.5, tint: [0.9, 0.9, 0.9] } },
				},
			],
			{},
		],
	];
	for (const [name, bodies, over] of cases) {
		it(`light that is chosen and light that is met have the same mean: ${name}`, () => {
			const wide = { focalMm: 24, pitchDeg: -60 };
			const scene = () => hang(testScene(bodies, { ...over, camera: wide }), broad, { turn: 0.2 });
			const met = mean(traceAtOnce(scene(), size({ flags: L.FLAG_NO_LIGHT_SAMPLING }), 2048), 1);
			const both = mean(traceAtOnce(scene(), size(), 1024), 1);
			expect(Math.abs(both / met - 1)).toBeLessThan(0.02);
			if (name !== "a shiny floor") return;
			const chosen = mean(traceAtOnce(scene(), size({ flags: L.FLAG_NO_SURFACE_LIGHT }), 2048), 1);
			expect(Math.abs(chosen / met - 1)).toBeLessThan(0.02);
		});
	}

	it("the kernel sees what the core sees, turned and greyed, and its density sums to 1", () => {
		const { store, kernel, memory } = tracerForTest();
		const scene = hang(testScene([]), broad, { turn: 0.37, saturation: 0.4 });
		store.load(scene, size());
		const at = store.probe;
		kernel.takeScene(store.header, at + 256);
		const texels = scene.parts.get("texels") as { data: Uint32Array };
		const p = scene.root.dome.picture as NonNullable<Scene["root"]["dome"]["picture"]>;
		const random = randomStream(3);
		let sum = 0;
		const n = 200_000;
		for (let k = 0; k < n; k++) {
			const y = 2 * random() - 1;
			const a = random() * 2 * Math.PI;
			const s = Math.sqrt(1 - y * y);
			const d: Vec3 = [s * Math.cos(a), y, s * Math.sin(a)];
			kernel.skyAt(d[0], d[1], d[2], at);
			const seen = memory.f32.slice(at >> 2, (at >> 2) + 4);
			sum += (seen[3] * 4 * Math.PI) / n;
			if (k > 2000) continue;
			const want = pictureLuminance({ ...p, texels: texels.data }, d);
			want.forEach(
				(v, c) => void expect(Math.abs(seen[c] - v)).toBeLessThan(0.02 * v + 0.02 * Math.max(...want) + 1e-3),
			);
		}
		expect(sum).toBeCloseTo(1, 1);
	});
});
