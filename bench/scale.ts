/** `npm run bench -- --scale`: time of a ray, of the build and bytes, as scenes grow. Prints the table of docs/kernel.md. */
import { readFileSync } from "node:fs";
import { PLANTS } from "../src/core/dress/plant.ts";
import { randomStream } from "../src/core/maths/hash.ts";
import { makeKernel, TracerMemory } from "../src/tracer/memory.ts";
import { SceneStore } from "../src/tracer/sceneStore.ts";
import type { PlainInstance, PlainMesh } from "./rayFile.ts";
import { terrain } from "./terrain.ts";

const COUNT = 65_536;

function measure(title: string, meshes: PlainMesh[], instances: PlainInstance[]): string {
	const memory = new TracerMemory();
	const kernel = makeKernel(
		new WebAssembly.Module(readFileSync(new URL("../build/kernel.wasm", import.meta.url))),
		memory.memory,
	);
	const store = new SceneStore(memory, kernel);
	const before = memory.used;
	const at = performance.now();
	store.holdForCasting(meshes, instances);
	const build = performance.now() - at;
	const bytes = memory.used - before;
	kernel.takeScene(store.header, memory.allocate(65_536));
	const random = randomStream(3);
	const rays = new Float32Array(COUNT * 7);
	for (let i = 0; i < COUNT; i++) {
		// As a lens sees it: neighbouring rays lie together.
		const d = [((i % 256) / 256 - 0.5) * 1.6 + random() / 256, -0.02 - 0.5 * (Math.floor(i / 256) / 256), -1];
		const l = Math.hypot(...d);
		rays.set([0, 1.7, 0, d[0] / l, d[1] / l, d[2] / l, 1e9], i * 7);
	}
	const from = memory.put(rays);
	const to = memory.allocate(COUNT * 12);
	const time = (any: number) => {
		let least = Infinity;
		for (let k = 0; k < 6; k++) {
			const t = performance.now();
			kernel.castRays(from, COUNT, to, any);
			least = Math.min(least, performance.now() - t);
		}
		return (least * 1e6) / COUNT;
	};
	const row = `| ${title} | ${time(0).toFixed(0)} | ${time(1).toFixed(0)} | ${build.toFixed(0)} | ${(bytes / 1048576).toFixed(0)} |`;
	process.stderr.write(`${row}\n`);
	return row;
}

/** A tussock on a field that grows with their number, two to a square metre. */
function field(count: number): { meshes: PlainMesh[]; instances: PlainInstance[] } {
	const random = randomStream(8);
	const meshes = Array.from({ length: 12 }, (_, i) => PLANTS[i % 2 ? "shrub" : "tussock"].grow(i >> 1));
	const side = Math.sqrt(count / 2);
	const instances = Array.from({ length: count }, () => {
		const a = random() * 2 * Math.PI;
		const s = 0.7 + 0.6 * random();
		const [c, n] = [s * Math.cos(a), s * Math.sin(a)];
		return {
			mesh: Math.floor(random() * 12),
			transform: [c, 0, n, (random() - 0.5) * side, 0, s, 0, 0, -n, 0, c, (random() - 0.5) * side],
		};
	});
	return { meshes, instances };
}

export function scale(): void {
	const rows = [
		"| scene | nearest hit, ns | any hit, ns | build, ms | memory, MiB |",
		"| --- | --- | --- | --- | --- |",
	];
	for (const n of [225, 700, 2237]) {
		const mesh = terrain(n, 2000);
		rows.push(measure(`terrain of ${(mesh.indices.length / 3e6).toFixed(1)} M triangles`, [mesh], []));
	}
	for (const n of [10_000, 100_000, 1_000_000]) {
		const { meshes, instances } = field(n);
		rows.push(measure(`${n.toLocaleString("en")} plants of 12 kinds`, meshes, instances));
	}
	process.stdout.write(`${rows.join("\n")}\n`);
}
