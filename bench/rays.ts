/**
 * Rays and builds against two comparison libraries, on the same geometry and the same rays: Embree (single rays, one
 * thread, default and robust; compiled here when Debian's libembree-dev is there) and three-mesh-bvh. Rays are cast in
 * chunks of 8,192; of each chunk the fastest pass counts; processes alternate over several rounds, since machines are
 * noisy.
 */

import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import * as THREE from "three";
import { MeshBVH } from "three-mesh-bvh";
import { saltWorksDocument } from "../demo/saltWorks.ts";
import { frameOfView, rayThrough } from "../src/core/lens/camera.ts";
import { randomStream } from "../src/core/maths/hash.ts";
import { compiled } from "./compiled.ts";
import { CHUNK, type PlainMesh, type RayFile, type RaySet, readRayFile, writeRayFile } from "./rayFile.ts";
import { terrain } from "./terrain.ts";

type Say = (name: string, value: number, unit: string, reference?: number) => void;

interface Run {
	buildMs: number;
	bytes: number;
	sets: number[][];
}

const ROUNDS = 5;
const PASSES = 3;
const SUN = [0.48, 0.36, -0.8];

/** The demo shot's meshes and instances, relative to its lens. */
function demoGeometry(): Pick<RayFile, "meshes" | "instances"> {
	const doc = saltWorksDocument();
	const { root, parts } = compiled(doc);
	const meshes: PlainMesh[] = [];
	const numbers = new Map<string, number>();
	const number = (key: string) => {
		if (!numbers.has(key)) {
			numbers.set(key, meshes.length);
			meshes.push((parts.get(key) as { mesh: PlainMesh }).mesh);
		}
		return numbers.get(key) as number;
	};
	const lens = root.camera.position;
	const move = (m: ArrayLike<number>, by: readonly number[]) =>
		Array.from(m, (v, i) => (i % 4 === 3 ? v + by[(i - 3) / 4] : v));
	const instances = root.draws.map((d) => ({
		mesh: number(d.mesh),
		transform: move(
			d.transform,
			lens.map((v) => -v),
		),
	}));
	for (const cover of root.covers)
		for (const key of cover.cells) {
			const { plants } = parts.get(key) as Extract<ReturnType<typeof parts.get>, { kind: "plants" }>;
			for (let i = 0; i < plants.count; i++)
				instances.push({
					mesh: number(cover.meshes[plants.variants[i]]),
					transform: move(
						plants.transforms.subarray(i * 12, i * 12 + 12),
						plants.origin.map((v, c) => v - lens[c]),
					),
				});
		}
	return { meshes, instances };
}

function primaryRays(
	width: number,
	height: number,
	ray: (x: number, y: number) => readonly number[],
	origin: readonly number[],
): Float32Array {
	const out = new Float32Array(width * height * 7);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const d = ray((x + 0.5) / width, (y + 0.5) / height);
			const l = Math.hypot(...d);
			out.set([...origin, d[0] / l, d[1] / l, d[2] / l, 1e9], (y * width + x) * 7);
		}
	return out;
}

/** Shadow rays towards the sun and cosine-distributed bounces from where the primary rays have hit. */
function secondaryRays(primary: Float32Array, distances: Float32Array): { shadow: Float32Array; bounce: Float32Array } {
	const random = randomStream(9);
	const shadow: number[] = [];
	const bounce: number[] = [];
	for (let i = 0; i < distances.length; i++) {
		const t = distances[i];
		if (!(t < 1e8)) continue;
		const r = primary.subarray(i * 7, i * 7 + 7);
		const o = [0, 1, 2].map((c) => r[c] + r[3 + c] * t * 0.9995 + (c === 1 ? 1e-3 : 0));
		shadow.push(...o, ...SUN, 1e9);
		const u = random();
		const a = random() * 2 * Math.PI;
		bounce.push(...o, Math.sqrt(u) * Math.cos(a), Math.sqrt(1 - u), Math.sqrt(u) * Math.sin(a), 1e9);
	}
	return { shadow: new Float32Array(shadow), bounce: new Float32Array(bounce) };
}

const build = (name: string) => fileURLToPath(new URL(`../build/${name}`, import.meta.url));

function compileEmbree(): string | null {
	if (!existsSync("/usr/include/embree3/rtcore.h")) return null;
	const out = build("embree-rays");
	const source = fileURLToPath(new URL("../bench/embree/rays.cpp", import.meta.url));
	const made = spawnSync("g++", ["-O3", "-march=native", "-o", out, source, "-lembree3"], { encoding: "utf8" });
	return made.status === 0 ? out : null;
}

function run(command: string, args: string[]): Run {
	const r = spawnSync(command, args, { encoding: "utf8", maxBuffer: 1 << 26 });
	if (r.status !== 0) throw new Error(`${command} failed: ${r.stderr}`);
	return JSON.parse(r.stdout);
}

const best = (a: Run | null, b: Run): Run =>
	a
		? {
				buildMs: Math.min(a.buildMs, b.buildMs),
				bytes: b.bytes,
				sets: a.sets.map((s, i) => s.map((v, k) => Math.min(v, b.sets[i][k]))),
			}
		: b;

/** Distances of the first set of rays, then numbers of triangles, as a program has written them. */
function hitsOf(file: string, count: number): { distances: Float32Array; triangles: Uint32Array; bodies: Uint32Array } {
	const raw = readFileSync(file);
	const words = raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.byteLength) as ArrayBuffer;
	return {
		distances: new Float32Array(words, 0, count),
		triangles: new Uint32Array(words, count * 4, count),
		bodies: new Uint32Array(words, count * 8, count),
	};
}

function against(
	title: string,
	geometry: Pick<RayFile, "meshes" | "instances">,
	primary: Float32Array,
	embree: string | null,
	say: Say,
): void {
	const folder = mkdtempSync(join(tmpdir(), "inquadra-bench-"));
	const file = join(folder, "rays");
	const ours = join(folder, "ours");
	const theirs = join(folder, "theirs");
	const mode = geometry.instances.length ? "placed" : "flat";
	const cast = (passes: number) =>
		run(process.execPath, [build("cast.mjs"), build("kernel.wasm"), file, ours, mode, String(passes)]);
	try {
		const sets: RaySet[] = [{ name: "primary", any: false, rays: primary }];
		writeRayFile(file, { ...geometry, sets });
		cast(1);
		const { shadow, bounce } = secondaryRays(primary, hitsOf(ours, primary.length / 7).distances);
		sets.push({ name: "shadow", any: true, rays: shadow }, { name: "bounce", any: false, rays: bounce });
		writeRayFile(file, { ...geometry, sets });
		let a: Run | null = null;
		const b: Record<string, Run | null> = { default: null, robust: null };
		for (let round = 0; round < ROUNDS; round++) {
			a = best(a, cast(PASSES));
			if (embree) for (const m of Object.keys(b)) b[m] = best(b[m], run(embree, [file, theirs, m, String(PASSES)]));
		}
		if (!a) return;
		const triangles = geometry.meshes.reduce((n, m) => n + m.indices.length / 3, 0);
		const rate = (r: Run, i: number) => (sets[i].rays.length / 7 / r.sets[i].reduce((x, y) => x + y, 0)) * 1000;
		say(`${title}: build, beside Embree`, a.buildMs, "ms", b.default?.buildMs);
		say(
			`${title}: memory, beside Embree`,
			a.bytes / triangles,
			"bytes a triangle",
			b.default ? b.default.bytes / triangles : undefined,
		);
		sets.forEach((set, i) => {
			for (const m of Object.keys(b))
				say(
					`${title}: ${set.name} rays, one thread, beside Embree ${m}`,
					rate(a as Run, i),
					"Mray/s",
					b[m] ? rate(b[m] as Run, i) : undefined,
				);
		});
		if (b.default) {
			const [p, q] = [hitsOf(ours, primary.length / 7), hitsOf(theirs, primary.length / 7)];
			const same = p.distances.reduce(
				(n, d, i) =>
					n +
					((
						d < 1e8
							? p.triangles[i] === q.triangles[i] && (mode === "flat" || p.bodies[i] === q.bodies[i])
							: !(q.distances[i] < 1e8)
					)
						? 1
						: 0),
				0,
			);
			say(`${title}: primary rays that meet the same triangle in Embree`, (100 * same) / p.distances.length, "%");
		}
		if (mode === "flat")
			againstBvh(title, geometry.meshes[0], readRayFile(file).sets, a, rate, hitsOf(ours, primary.length / 7), say);
	} finally {
		rmSync(folder, { recursive: true, force: true });
	}
}

function againstBvh(
	title: string,
	mesh: PlainMesh,
	sets: RaySet[],
	ours: Run,
	rate: (r: Run, i: number) => number,
	hits: ReturnType<typeof hitsOf>,
	say: Say,
): void {
	const geometry = new THREE.BufferGeometry();
	geometry.setAttribute("position", new THREE.BufferAttribute(mesh.positions, 3));
	geometry.setIndex(new THREE.BufferAttribute(mesh.indices.slice(), 1));
	const at = performance.now();
	const bvh = new MeshBVH(geometry, { strategy: 2, indirect: true });
	say(`${title}: build, beside three-mesh-bvh`, ours.buildMs, "ms", performance.now() - at);
	const ray = new THREE.Ray();
	const names = ["primary", "shadow", "bounce"];
	let same = 0;
	let asked = 0;
	sets.forEach((set, i) => {
		// A share of the chunks, spread over the set, is enough for a program this slow.
		const chunks = ours.sets[i].map((_, k) => k).filter((k) => k % 8 === 0);
		let ms = 0;
		let count = 0;
		for (const k of chunks) {
			let least = Infinity;
			const end = Math.min(set.rays.length / 7, (k + 1) * CHUNK);
			for (let pass = 0; pass < 3; pass++) {
				const from = performance.now();
				for (let r = k * CHUNK; r < end; r++) {
					ray.origin.set(set.rays[r * 7], set.rays[r * 7 + 1], set.rays[r * 7 + 2]);
					ray.direction.set(set.rays[r * 7 + 3], set.rays[r * 7 + 4], set.rays[r * 7 + 5]);
					const hit = bvh.raycastFirst(ray, THREE.DoubleSide);
					if (i === 0 && pass === 0 && (hit ? hit.faceIndex === hits.triangles[r] : !(hits.distances[r] < 1e8))) same++;
				}
				least = Math.min(least, performance.now() - from);
			}
			ms += least;
			count += end - k * CHUNK;
			if (i === 0) asked += end - k * CHUNK;
		}
		say(`${title}: ${names[i]} rays, one thread, beside three-mesh-bvh`, rate(ours, i), "Mray/s", count / ms / 1000);
	});
	say(`${title}: primary rays that meet the same triangle in three-mesh-bvh`, (100 * same) / asked, "%");
}

export async function rays(say: Say): Promise<void> {
	const embree = compileEmbree();
	if (!embree) process.stderr.write("Embree is not here (Debian's libembree-dev and g++): its figures are left out.\n");
	const look = (x: number, y: number) => [x * 2 - 1, (1 - 2 * y) * 0.5625 - 0.1, -1];
	against(
		"terrain of 1 M triangles",
		{ meshes: [terrain(700, 2000)], instances: [] },
		primaryRays(960, 540, look, [0, 1.7, 0]),
		embree,
		say,
	);
	const { camera } = saltWorksDocument();
	const view = frameOfView(camera);
	against(
		"demo shot",
		demoGeometry(),
		primaryRays(960, 518, (x, y) => rayThrough(view, x, y), [0, 0, 0]),
		embree,
		say,
	);
}
