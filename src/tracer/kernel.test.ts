import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { skyLuminance } from "../core/air/dome.ts";
import { blankShot } from "../core/doc/defaults.ts";
import type { ShotDocument } from "../core/doc/schema.ts";
import { newCover } from "../core/dress/plant.ts";
import { NODE_LEFT, NODE_LIGHT, NODE_PARENT, NODE_RIGHT, NODE_WORDS, NONE } from "../core/light/lightTree.ts";
import { randomStream } from "../core/maths/hash.ts";
import type { Vec3 } from "../core/maths/vec.ts";
import { compile } from "../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../core/scene/inputs.ts";
import { PartCache } from "../core/scene/partCache.ts";
import { CHANNELS, firstsBytes, MASKS, type TileSums, tilesOf } from "../core/scene/picture.ts";
import type { Scene } from "../core/scene/scene.ts";
import { STILL } from "../core/time/frames.ts";
import * as L from "./kernel/layout.ts";
import { MemoryFull, makeKernel, TracerMemory } from "./memory.ts";
import { renderTile } from "./renderTile.ts";
import { SceneStore } from "./sceneStore.ts";
import { kernelModule, traceAtOnce, tracerForTest } from "./testing.ts";
import { testScene } from "./testScene.ts";

describe("what both sides of the memory count", () => {
	it("is the same: planes of tiles, nodes of the tree over lights", () => {
		expect([L.CHANNELS, L.MASKS, L.FIRSTS * 4]).toEqual([
			CHANNELS,
			MASKS,
			firstsBytes({ x: 0, y: 0, width: 1, height: 1 }),
		]);
		expect([L.N_SIZE, L.N_LEFT, L.N_RIGHT, L.N_PARENT, L.N_LIGHT]).toEqual(
			[NODE_WORDS, NODE_LEFT, NODE_RIGHT, NODE_PARENT, NODE_LIGHT].map((w) => w * 4),
		);
		expect(L.N_NONE).toBe(NONE);
	});
});

describe("masks", () => {
	it("tell what lies in a pixel, the most of it first, and their shares sum to one", () => {
		const scene = testScene([
			{ kind: "sphere", position: [0, -1, -4], size: [2, 2, 2] },
			{ kind: "box", position: [0.2, -2, -8], size: [1, 6, 1] },
		]);
		const p = traceAtOnce(scene, { width: 40, height: 40, seed: 2 }, 64);
		let mixed = 0;
		for (let i = 0; i < 1600; i++) {
			const covers = p.masks.map((m) => m.cover[i]);
			expect(covers.reduce((s, v) => s + v, 0)).toBeCloseTo(1, 5);
			expect([...covers].sort((a, b) => b - a)).toEqual(covers);
			if (covers[1] > 0) mixed++;
			// Where a pixel has one piece only, that is the one that its first sample met.
			if (covers[0] === 1) expect(p.masks[0].id[i]).toBe(p.id[i]);
		}
		expect(mixed).toBeGreaterThan(40);
		// The covered area of the ball is its silhouette's, to a part of a pixel.
		const sine = 1 / 4;
		const radius = (sine / Math.sqrt(1 - sine * sine)) * 40;
		const area = p.masks.reduce((s, m) => s + m.cover.reduce((t, v, i) => t + (m.id[i] === 3 ? v : 0), 0), 0);
		expect(area / (Math.PI * radius * radius)).toBeCloseTo(1, 1.7);
	});
});

describe("the kernel's layout", () => {
	it("agrees with what the rest of the program knows", () => {
		expect(L.CHANNELS).toBe(CHANNELS);
		expect(L.I_SIZE % 32).toBe(0);
		expect(L.H_SIZE).toBeGreaterThan(L.H_SKY_CONSTANT + 8);
	});
});

describe("the kernel's sky", () => {
	it("is the sky of the core, cloud included", () => {
		const doc = blankShot();
		doc.air = { ...doc.air, cloud: { cover: 0.7, seed: 3 }, sun: { headingDeg: 40, elevationDeg: 12 } };
		const scene = compile(doc);
		const { memory, kernel, store, desk } = tracerForTest();
		store.load(scene, { width: 8, height: 8, seed: 1 });
		kernel.takeScene(store.header, desk.scratch);
		const table = (key: string) => (scene.parts.get(key) as { data: Float32Array }).data;
		const dome = { ...scene.root.dome, sky: table(scene.root.dome.sky), cloud: table(scene.root.dome.cloud) };
		const at = memory.allocate(64);
		const random = randomStream(5);
		let pdf = 0;
		const n = 4000;
		for (let i = 0; i < n; i++) {
			const y = random();
			const a = random() * Math.PI * 2;
			const s = Math.sqrt(1 - y * y);
			const d: Vec3 = [s * Math.sin(a), y, s * Math.cos(a)];
			kernel.skyAt(...d, at);
			const got = memory.f32.subarray(at >> 2, (at >> 2) + 4);
			skyLuminance(dome, d).forEach((v, c) => expect(Math.abs(got[c] / v - 1)).toBeLessThan(0.02));
			pdf += got[3];
		}
		// The density of choosing directions integrates to 1 over the upper half of the sphere.
		expect((pdf / n) * 2 * Math.PI).toBeCloseTo(1, 1);
	});
});

describe("a scene that does not fit", () => {
	it("is refused with what it wants and what takes most, and the next one that fits is traced", () => {
		const memory = new TracerMemory(96);
		const kernel = makeKernel(kernelModule(), memory.memory);
		const store = new SceneStore(memory, kernel);
		const base = testScene([{ kind: "box", position: [0, -1, -5], size: [1, 1, 1] }]);
		const n = 900_000;
		const positions = new Float32Array(n * 9).map((_, i) => (i * 7919) % 1000);
		const indices = Uint32Array.from({ length: n * 3 }, (_, i) => i);
		const large = {
			parts: new Map(base.parts).set("large", {
				kind: "mesh",
				key: "large",
				mesh: { positions, normals: positions, indices },
			}),
			root: { ...base.root, draws: [...base.root.draws, { ...base.root.draws[0], mesh: "large" }] },
		};
		const size = { width: 16, height: 16, seed: 1 };
		expect(() => store.load(large, size)).toThrow(MemoryFull);
		expect(() => store.load(large, size)).toThrow(
			/^The scene does not fit: \d+ MiB are wanted, the tracer has 96 MiB\. Shapes and ground take \d+ MiB, covers \d+ MiB\.$/,
		);
		store.load(base, size);
		kernel.takeScene(store.header, memory.allocate(65_536));
		const to = memory.allocate(12);
		expect(kernel.castRays(memory.put(new Float32Array([0, -0.5, 0, 0, 0, -1, 1e9])), 1, to, 0)).toBe(1);
	});
});

describe("samples", () => {
	it("taken in slices of any length add up to the same sums as whole blocks", () => {
		const scene = testScene([{ kind: "sphere", position: [0, -1, -4], size: [2, 2, 2] }], {
			sunLux: [900, 800, 700],
			sunDirection: [0.6, 0.64, 0.48],
		});
		const { memory, kernel, store, desk } = tracerForTest();
		store.load(scene, { width: 20, height: 20, seed: 2, uniformSky: [1, 1, 1] });
		const [tile] = tilesOf(20, 20);
		const run = (steps: number[]) => {
			let sums: TileSums | undefined;
			let from = 0;
			for (const to of steps) {
				sums = renderTile(kernel, memory.memory.buffer, store.header, desk, tile, from, to, sums) as TileSums;
				from = to;
			}
			return sums as TileSums;
		};
		const whole = run([48]);
		expect(run([1, 2, 4, 8, 16, 21, 32, 47, 48]).sums).toEqual(whole.sums);
		expect(run([16, 32, 48]).sums).toEqual(whole.sums);
		const unfinished = run([5]);
		expect(unfinished.partial?.some((v) => v !== 0)).toBe(true);
	});

	it("end where each pixel's own number is reached, and are those that it would have taken by itself", () => {
		const { memory, kernel, store, desk } = tracerForTest();
		store.load(testScene([{ kind: "sphere", position: [0, -1, -4], size: [2, 2, 2] }]), {
			width: 20,
			height: 20,
			seed: 2,
			uniformSky: [1, 1, 1],
		});
		const [tile] = tilesOf(20, 20);
		const run = (begin: number, end: number, before?: TileSums) =>
			renderTile(kernel, memory.memory.buffer, store.header, desk, tile, begin, end, before) as TileSums;
		const [few, many] = [run(0, 16), run(0, 48)];
		const limits = Uint32Array.from({ length: 400 }, (_, i) => (i % 3 === 0 ? 48 : 16));
		const mixed = run(16, 48, { ...few, limits });
		expect(mixed.limits).toEqual(limits);
		for (let i = 0; i < few.sums.length; i++)
			expect(mixed.sums[i]).toBe((i % 400) % 3 === 0 ? many.sums[i] : few.sums[i]);
		// In slices, too, that do not end with blocks.
		const sliced = run(41, 48, run(20, 41, run(16, 20, { ...few, limits })));
		expect(sliced.sums).toEqual(mixed.sums);
		expect(new Uint8Array(sliced.firsts)).toEqual(new Uint8Array(mixed.firsts));
	});

	it("stop at the next row when they are aborted", () => {
		const { memory, kernel, store, desk } = tracerForTest();
		store.load(testScene([]), { width: 16, height: 16, seed: 1, uniformSky: [1, 1, 1] });
		memory.u32[desk.abort >> 2] = 1;
		expect(renderTile(kernel, memory.memory.buffer, store.header, desk, tilesOf(16, 16)[0], 0, 16)).toBeNull();
	});
});

describe("trees", () => {
	it("find what a search through all triangles finds, through instances that are turned, squashed and mirrored", () => {
		const random = randomStream(9);
		const n = 600;
		const positions = new Float32Array(n * 9).map(() => random() * 2 - 1);
		const indices = Uint32Array.from({ length: n * 3 }, (_, i) => i);
		const base = testScene([]);
		const draws: Scene["root"]["draws"] = [0, 1, 2].map((k) => ({
			mesh: "soup",
			transform: [0.7, 0.3 * k, 0, k * 1.5 - 1.5, -0.2, k === 1 ? -1.2 : 0.9, 0.1, 0.2, 0.1, 0, 0.8 + k * 0.3, -5],
			material: 0,
			id: 3 + k,
		}));
		base.parts.set("soup", { kind: "mesh", key: "soup", mesh: { positions, normals: positions, indices } });
		base.root.draws = draws;
		base.root.materials = [{ colour: [1, 1, 1], roughness: 1, metal: 0, translucency: 0 }];
		const { memory, kernel, store, desk } = tracerForTest();
		store.load(base, { width: 8, height: 8, seed: 1 });
		kernel.takeScene(store.header, desk.scratch);
		const world = draws.map(({ transform: m }) =>
			Float64Array.from(positions, (_, i) => {
				const v = i - (i % 3);
				const r = (i % 3) * 4;
				return m[r] * positions[v] + m[r + 1] * positions[v + 1] + m[r + 2] * positions[v + 2] + m[r + 3];
			}),
		);
		const from = memory.allocate(28);
		const to = memory.allocate(12);
		let hits = 0;
		for (let k = 0; k < 400; k++) {
			const d = [random() - 0.5, random() - 0.5, -1];
			const l = Math.hypot(...d);
			const dir = d.map((v) => Math.fround(v / l));
			memory.f32.set([0, 0, 0, ...dir, 1e9], from >> 2);
			kernel.castRays(from, 1, to, 0);
			let best = Infinity;
			let id = 0;
			world.forEach((p, w) => {
				for (let t = 0; t < n; t++) {
					const hit = throughTriangle(p, t * 9, dir);
					if (hit < best) {
						best = hit;
						id = 3 + w;
					}
				}
			});
			const got = memory.f32[to >> 2];
			if (best === Infinity) expect(got).toBe(Infinity);
			else {
				hits++;
				expect(Math.abs(got - best)).toBeLessThan(1e-4 * best);
				expect(memory.u32[(to + 4) >> 2]).toBe(id);
			}
			memory.f32[(from + 24) >> 2] = 1e9;
			expect(kernel.castRays(from, 1, to, 1)).toBe(best === Infinity ? 0 : 1);
		}
		expect(hits).toBeGreaterThan(100);
	});
});

/** Distance to a triangle in float64, Infinity when it is missed. */
function throughTriangle(p: Float64Array, at: number, d: number[]): number {
	const e1 = [0, 1, 2].map((c) => p[at + 3 + c] - p[at + c]);
	const e2 = [0, 1, 2].map((c) => p[at + 6 + c] - p[at + c]);
	const cross = (a: number[], b: number[]) => [
		a[1] * b[2] - a[2] * b[1],
		a[2] * b[0] - a[0] * b[2],
		a[0] * b[1] - a[1] * b[0],
	];
	const dot = (a: number[], b: number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
	const h = cross(d, e2);
	const det = dot(e1, h);
	if (Math.abs(det) < 1e-12) return Infinity;
	const s = [-p[at], -p[at + 1], -p[at + 2]];
	const u = dot(s, h) / det;
	const q = cross(s, e1);
	const v = dot(d, q) / det;
	if (u < 0 || v < 0 || u + v > 1) return Infinity;
	const t = dot(e2, q) / det;
	return t > 0 ? t : Infinity;
}

describe("the scene in memory", () => {
	const cache = new PartCache();
	const compiled = (of: ShotDocument) => compile(of, STILL, NO_BLOBS, NO_MAKERS, cache);

	it("takes the same scene again and again without growing, and forgets what is gone", () => {
		const { memory, store } = tracerForTest();
		const doc = { ...blankShot(), covers: [newCover("grass", "tussock", { densityPerM2: 0.3 })] };
		const size = { width: 8, height: 8, seed: 1 };
		store.load(compiled(doc), size);
		const first = memory.used;
		for (let i = 1; i <= 12; i++) {
			const pieces = doc.pieces.map((p) => ({
				...p,
				position: [p.position[0] + i * 0.1, p.position[1], p.position[2]] as [number, number, number],
			}));
			store.load(compiled({ ...doc, pieces }), size);
		}
		expect(memory.used).toBeLessThan(first * 1.05);
		store.load(compiled(doc), size);
		expect(memory.used).toBe(first);
		store.load(compiled({ ...doc, covers: [] }), size);
		expect(memory.used).toBeLessThan(first);
	});

	it("gives the same picture for a scene that came after another one", () => {
		const doc = blankShot();
		const plain = traceAtOnce(compiled(doc), { width: 24, height: 13, seed: 1 }, 16);
		const { memory, kernel, store, desk } = tracerForTest();
		store.load(compiled({ ...doc, covers: [newCover("g", "shrub", { densityPerM2: 0.2 })] }), {
			width: 24,
			height: 13,
			seed: 1,
		});
		store.load(compiled(doc), { width: 24, height: 13, seed: 1 });
		const sums = renderTile(kernel, memory.memory.buffer, store.header, desk, tilesOf(24, 13)[0], 0, 16) as TileSums;
		expect(Float32Array.from(sums.sums.subarray(0, 24 * 13), (v) => v / 16)).toEqual(plain.rgb[0]);
	});
});

describe("the allocator", () => {
	it("never hands out what is in use, and joins what comes back", () => {
		fc.assert(
			fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 5000 }), fc.boolean()), { maxLength: 60 }), (steps) => {
				const memory = new TracerMemory();
				const held = new Map<number, number>();
				for (const [size, free] of steps) {
					if (free && held.size) {
						const at = [...held.keys()][size % held.size];
						memory.release(at);
						held.delete(at);
						continue;
					}
					const at = memory.allocate(size);
					expect(at % 64).toBe(0);
					for (const [a, s] of held) expect(at + size <= a || at >= a + s).toBe(true);
					held.set(at, size);
				}
				for (const at of held.keys()) memory.release(at);
				expect(memory.used).toBe(0);
			}),
			{ numRuns: 40 },
		);
	});
	it("says how much was wanted when a scene does not fit", () => {
		expect(() => new TracerMemory().allocate(4e9)).toThrow(MemoryFull);
		expect(() => new TracerMemory().allocate(4e9)).toThrow(/MiB are wanted/);
	});
});

describe("a lens", () => {
	it("blurs a point off focus over the circle that optics say", () => {
		const camera = { focalMm: 50, fStop: 1.4, focusM: 3, film: { widthMm: 3.6, heightMm: 3.6 }, ratio: 1 };
		const z = 9;
		const size = 64;
		const scene = testScene([{ kind: "sphere", position: [0, -0.005, -z], size: [0.01, 0.01, 0.01] }], { camera });
		const p = traceAtOnce(scene, { width: size, height: size, seed: 1 }, 900);
		let widest = 0;
		p.albedo[0].forEach((v, i) => {
			if (v > 0)
				widest = Math.max(widest, 2 * Math.hypot((i % size) + 0.5 - size / 2, Math.floor(i / size) + 0.5 - size / 2));
		});
		const mm = (50 * 50 * (z * 1000 - 3000)) / (1.4 * z * 1000 * 3000);
		const want = (mm / 3.6) * size;
		// Seven pixels; the pixel filter reaches one to each side, the sphere itself is one wide.
		expect(Math.abs(widest - want)).toBeLessThan(2.5);
	});
});

describe("a mirror image of a scene", () => {
	it("gives the mirrored picture, statistically", () => {
		const side = (s: number) =>
			testScene(
				[{ kind: "box", position: [s * 1.2, -1, -5], size: [1, 2, 1], material: { colour: [0.6, 0.3, 0.2] } }],
				{ sunLux: [3, 3, 3], sunDirection: [s * 0.6, 0.64, 0.48] },
			);
		const run = (s: number) =>
			traceAtOnce(side(s), { width: 32, height: 32, seed: 4, uniformSky: [0.4, 0.5, 0.6] }, 256);
		const a = run(1);
		const b = run(-1);
		let sum = 0;
		for (let i = 0; i < 1024; i++) sum += a.rgb[0][i] - b.rgb[0][Math.floor(i / 32) * 32 + 31 - (i % 32)];
		expect(Math.abs(sum / 1024)).toBeLessThan(0.01);
	});
});
