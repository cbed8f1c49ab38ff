/** For tests and the bench: a scene traced at once on the present thread, in Node. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { type Area, within } from "../core/maths/area.ts";
import type { Mesh } from "../core/maths/mesh.ts";
import { emptyPicture, type Picture, placeTile, tilesOfPart } from "../core/scene/picture.ts";
import type { Scene } from "../core/scene/scene.ts";
import type { PictureSize } from "./headerStore.ts";
import { makeKernel, TracerMemory } from "./memory.ts";
import { renderTile, reserveDesk } from "./renderTile.ts";
import { SceneStore } from "./sceneStore.ts";

let module: WebAssembly.Module | null = null;

/** The compiled kernel from the build folder. */
export function kernelModule(): WebAssembly.Module {
	module ??= new WebAssembly.Module(readFileSync(join(process.cwd(), "build/kernel.wasm")));
	return module;
}

/** The learned filter's weights. */
export const weightsForTest = (): ArrayBuffer =>
	Uint8Array.from(readFileSync(join(process.cwd(), "train/weights/clean.bin"))).buffer;

export function tracerForTest() {
	const memory = new TracerMemory();
	const kernel = makeKernel(kernelModule(), memory.memory);
	const store = new SceneStore(memory, kernel);
	const desk = reserveDesk(memory);
	return { memory, kernel, store, desk };
}

/** Traces a whole picture on this thread, or an area of it, which may reach beyond it. */
export function traceAtOnce(
	scene: Scene,
	size: PictureSize,
	samples: number,
	lights: string[] = [],
	area: Area = { x: 0, y: 0, width: size.width, height: size.height },
): Picture {
	const { memory, kernel, store, desk } = tracerForTest();
	store.load(scene, { ...size, layers: lights.length });
	const picture = emptyPicture(area.width, area.height, lights);
	for (const tile of tilesOfPart(area)) {
		const sums = renderTile(kernel, memory.memory.buffer, store.header, desk, tile, 0, samples);
		if (sums) placeTile(picture, within(area, tile), sums);
	}
	return picture;
}

/** Distances that rays go to the nearest of a mesh, infinite where they meet nothing: place, direction and farthest, seven numbers a ray. */
export function castAtOnce(mesh: Pick<Mesh, "positions" | "indices">, rays: readonly number[]): Float32Array {
	const { memory, kernel, store } = tracerForTest();
	store.holdForCasting([mesh], []);
	kernel.takeScene(store.header, memory.allocate(65_536));
	const count = rays.length / 7;
	const from = memory.put(new Float32Array(rays));
	const to = memory.allocate(12 * count);
	kernel.castRays(from, count, to, 0);
	const met = new Float32Array(memory.memory.buffer, to, 3 * count);
	return Float32Array.from({ length: count }, (_, i) => met[3 * i]);
}
