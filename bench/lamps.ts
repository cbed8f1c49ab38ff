/** What lamps cost: time of a sample and noise at equal samples for 1 to 10,000 lamps over one floor. */
import { emptyPicture, type Picture, placeTile, tilesOf } from "../src/core/scene/picture.ts";
import type { Scene } from "../src/core/scene/scene.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { renderTile, reserveDesk } from "../src/tracer/renderTile.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import { type TestLamp, testScene } from "../src/tracer/testScene.ts";

export function lamps(say: (name: string, value: number, unit: string) => void, module: WebAssembly.Module): void {
	const size = { width: 96, height: 64, seed: 1 };
	/** Milliseconds of a picture, its scene put into memory before. */
	const trace = (scene: Scene, count: number): { picture: Picture; ms: number } => {
		const memory = new TracerMemory();
		const kernel = makeKernel(module, memory.memory);
		const store = new SceneStore(memory, kernel);
		const desk = reserveDesk(memory);
		store.load(scene, size);
		const picture = emptyPicture(size.width, size.height);
		const at = performance.now();
		for (const tile of tilesOf(size.width, size.height)) {
			const sums = renderTile(kernel, memory.memory.buffer, store.header, desk, tile, 0, count);
			if (sums) placeTile(picture, tile, sums);
		}
		return { picture, ms: performance.now() - at };
	};
	const samples = 32;
	let one = 0;
	for (const n of [1, 10, 100, 1000, 10_000]) {
		const side = Math.ceil(Math.sqrt(n));
		const all: TestLamp[] = Array.from({ length: n }, (_, i) => ({
			shape: "point",
			position: [((i % side) - (side - 1) / 2) * (40 / side), -0.5, -4 - Math.floor(i / side) * (40 / side)],
			rgb: [1, 1, 1],
		}));
		const scene = testScene(
			[
				{
					kind: "box",
					position: [0, -3, 0],
					size: [400, 1, 400],
					material: { colour: [0.5, 0.5, 0.5], roughness: 0.9 },
				},
			],
			{
				camera: { pitchDeg: -12, ratio: 1.5, focalMm: 24 },
				lamps: all,
			},
		);
		trace(scene, 16);
		const { picture: p, ms } = trace(scene, samples);
		one ||= ms;
		const noise = p.error.reduce((s, v) => s + v, 0) / p.rgb[0].reduce((s, v) => s + v, 0);
		say(`${n.toLocaleString("en")} lamps, time of a sample in those of one lamp`, ms / one, "×");
		say(`${n.toLocaleString("en")} lamps, noise at ${samples} samples`, noise * 100, "%");
	}
}
