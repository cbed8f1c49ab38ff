import { describe, expect, it } from "vitest";
import { randomStream } from "../../core/maths/hash.ts";
import { tracerForTest } from "../testing.ts";

interface Bare {
	positions: Float32Array;
	indices: Uint32Array;
}

/** A closed bumpy ball about the origin: rings of corners shared by all their faces. */
function ball(rings: number, around: number, seed: number): Bare {
	const random = randomStream(seed);
	const points: number[] = [0, 1.3, 0];
	for (let r = 1; r < rings; r++) {
		for (let k = 0; k < around; k++) {
			const a = (Math.PI * r) / rings;
			const b = (2 * Math.PI * (k + (r % 2) * 0.5)) / around;
			const l = 1 + 0.35 * random();
			points.push(l * Math.sin(a) * Math.cos(b), l * Math.cos(a), l * Math.sin(a) * Math.sin(b));
		}
	}
	points.push(0, -1.2, 0);
	const last = points.length / 3 - 1;
	const at = (r: number, k: number) => 1 + (r - 1) * around + (k % around);
	const faces: number[] = [];
	for (let k = 0; k < around; k++) {
		faces.push(0, at(1, k), at(1, k + 1), last, at(rings - 1, k + 1), at(rings - 1, k));
		for (let r = 1; r < rings - 1; r++)
			faces.push(at(r, k), at(r + 1, k), at(r + 1, k + 1), at(r, k), at(r + 1, k + 1), at(r, k + 1));
	}
	return { positions: new Float32Array(points), indices: new Uint32Array(faces) };
}

/** Shares of rays from points near the middle towards corners, edges and faces that leave the body unhit. */
function leaks(
	mesh: Bare,
	transform: number[] | null,
	scale: number,
	seed: number,
): { cast: number; missed: number; unseen: number } {
	const { memory, kernel, store } = tracerForTest();
	store.holdForCasting([mesh], transform ? [{ mesh: 0, transform }] : []);
	kernel.takeScene(store.header, memory.allocate(65_536));
	const random = randomStream(seed);
	const corner = (t: number, k: number) => [0, 1, 2].map((c) => mesh.positions[mesh.indices[t * 3 + k] * 3 + c]);
	const rays: number[] = [];
	const m = transform ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0];
	const place = (p: number[]) =>
		[0, 1, 2].map((r) => m[r * 4] * p[0] + m[r * 4 + 1] * p[1] + m[r * 4 + 2] * p[2] + m[r * 4 + 3]);
	for (let t = 0; t < mesh.indices.length / 3; t++) {
		const [a, b, c] = [0, 1, 2].map((k) => corner(t, k));
		const w = random();
		const aims = [
			a,
			b,
			c,
			a.map((v, i) => v + (b[i] - v) * w),
			a.map((v, i) => (v + b[i]) / 2),
			b.map((v, i) => v + (c[i] - v) * w * w),
			a.map((v, i) => (v + b[i] + c[i]) / 3),
		];
		for (const aim of aims) {
			const from = place([0, 1, 2].map(() => (random() - 0.5) * 0.4)).map(Math.fround);
			const to = place(aim);
			const d = to.map((v, i) => v - from[i]);
			const l = random() < 0.5 ? Math.hypot(...d) : 1;
			rays.push(...from, ...d.map((v) => v / l), 1e6 * scale);
		}
	}
	const count = rays.length / 7;
	const from = memory.put(new Float32Array(rays));
	const to = memory.allocate(count * 12);
	const hits = kernel.castRays(from, count, to, 0);
	const blocked = kernel.castRays(from, count, to, 1);
	return { cast: count, missed: count - hits, unseen: count - blocked };
}

describe("a closed body", () => {
	it("lets no ray out between triangles that share an edge or a corner", () => {
		for (const [rings, around, seed] of [
			[6, 5, 1],
			[40, 64, 2],
			[120, 160, 3],
		]) {
			const result = leaks(ball(rings, around, seed), null, 1, seed);
			expect(result).toEqual({ cast: result.cast, missed: 0, unseen: 0 });
		}
	});

	it("stays closed when it is placed: turned, flattened, mirrored, far away, very large or small", () => {
		const mesh = ball(40, 64, 7);
		const places = [
			[0.36, 0.48, -0.8, 3, -0.8, 0.6, 0, -2, 0.48, 0.64, 0.6, 1],
			[1, 0, 0, 0, 0, 0.002, 0, 0, 0, 0, 1, 0],
			[-1, 0, 0, 900, 0, 1, 0, 4, 0, 0, 1, -4000],
			[3000, 0, 0, 0, 0, 3000, 0, 0, 0, 0, 3000, 0],
			[0.001, 0, 0, 0, 0, 0.001, 0, 0, 0, 0, 0.001, -2],
		];
		places.forEach((place, i) => {
			const result = leaks(mesh, place, i === 3 ? 3000 : 1, 20 + i);
			expect(result).toEqual({ cast: result.cast, missed: 0, unseen: 0 });
		});
	});
});

describe("odd meshes", () => {
	const nearest = (mesh: Bare, ray: number[]) => {
		const { memory, kernel, store } = tracerForTest();
		store.holdForCasting([mesh], []);
		kernel.takeScene(store.header, memory.allocate(65_536));
		const to = memory.allocate(12);
		kernel.castRays(memory.put(new Float32Array(ray)), 1, to, 0);
		return memory.f32[to >> 2];
	};
	const floor = (n: number, y: (i: number) => number): Bare => ({
		positions: Float32Array.from({ length: n * 9 }, (_, i) => {
			const corner = Math.floor(i / 3) % 3;
			const c = i % 3;
			return c === 1 ? y(Math.floor(i / 9)) : c === 0 ? (corner === 1 ? 9 : -3) : corner === 2 ? 9 : -3;
		}),
		indices: Uint32Array.from({ length: n * 3 }, (_, i) => i),
	});

	it("with thousands of triangles in one place are built and hit", () => {
		expect(
			nearest(
				floor(5000, () => -2),
				[0, 0, 0, 0, -1, 0, 1e6],
			),
		).toBe(2);
	});

	it("whose sizes span many powers of ten keep the walk's stack short", () => {
		const mesh = floor(4000, (i) => -(1.02 ** (i % 2000)));
		expect(nearest(mesh, [0, 0, 0, 0, -1, 0, 3e38])).toBe(1);
	});

	it("with triangles of no area are built, and those are never hit", () => {
		const mesh = floor(64, () => -2);
		for (let i = 0; i < 63; i++) mesh.positions.fill(-1, i * 9, i * 9 + 9);
		expect(nearest(mesh, [0, 0, 0, 0, -1, 0, 1e6])).toBe(2);
		expect(
			nearest({ positions: new Float32Array(9), indices: new Uint32Array([0, 0, 0]) }, [0, 1, 0, 0, -1, 0, 1e6]),
		).toBe(Number.POSITIVE_INFINITY);
	});

	it("of no triangles are empty", () => {
		expect(nearest({ positions: new Float32Array(0), indices: new Uint32Array(0) }, [0, 0, 0, 0, -1, 0, 1e6])).toBe(
			Number.POSITIVE_INFINITY,
		);
	});

	it("give the same tree for the same triangles, whatever lay in memory before", () => {
		const mesh = ball(60, 60, 11);
		const build = (litter: boolean) => {
			const { memory, kernel } = tracerForTest();
			const triangles = mesh.indices.length / 3;
			const [positions, indices] = [memory.put(mesh.positions), memory.put(mesh.indices)];
			const [refs, room, work, out] = [32, 96, 1, 200].map((bytes) => memory.allocate(triangles * bytes + 65_536));
			if (litter) memory.u8.fill(0xa5, refs, out + triangles * 200);
			kernel.referTriangles(positions, indices, triangles, refs);
			kernel.buildRange(positions, indices, refs, refs + triangles * 32, room, work, out, 0);
			return memory.u8.slice(out, kernel.builtEnd());
		};
		expect(build(true)).toEqual(build(false));
	});
});
