/**
 * Casts the rays of a file with our kernel, one thread: the counterpart of `embree/rays.cpp`, a process of its own, so
 * that both sides start alike. Usage: cast KERNEL FILE HITS flat|placed PASSES. `flat` walks the first mesh itself,
 * `placed` the instances of the file.
 */
import { readFileSync, writeFileSync } from "node:fs";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import { CHUNK, readRayFile } from "./rayFile.ts";

const [kernelFile, file, hitsFile, mode, passes] = process.argv.slice(2);
const memory = new TracerMemory();
const kernel = makeKernel(new WebAssembly.Module(readFileSync(kernelFile)), memory.memory);
const store = new SceneStore(memory, kernel);
const { meshes, instances, sets } = readRayFile(file);
const before = memory.used;
const at = performance.now();
const top = store.holdForCasting(meshes, mode === "flat" ? [] : instances);
const buildMs = performance.now() - at;
const bytes = memory.used - before;
kernel.takeScene(store.header, memory.allocate(65_536));
const hits: Buffer[] = [];
const out = sets.map((set) => {
	const count = set.rays.length / 7;
	const from = memory.put(set.rays);
	const to = memory.allocate(count * 12);
	const least: number[] = new Array(Math.ceil(count / CHUNK)).fill(1e30);
	for (let pass = 0; pass < Number(passes); pass++)
		least.forEach((best, k) => {
			const t = performance.now();
			kernel.castRays(from + k * CHUNK * 28, Math.min(CHUNK, count - k * CHUNK), to + k * CHUNK * 12, set.any ? 1 : 0);
			least[k] = Math.min(best, Math.round((performance.now() - t) * 1e6));
		});
	for (const word of [0, 2, 1])
		hits.push(Buffer.from(Uint32Array.from({ length: count }, (_, i) => memory.u32[(to >> 2) + i * 3 + word]).buffer));
	memory.release(from);
	memory.release(to);
	return least;
});
writeFileSync(hitsFile, Buffer.concat(hits));
process.stdout.write(`${JSON.stringify({ buildMs, bytes, top, sets: out })}\n`);
