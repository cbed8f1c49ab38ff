/**
 * How much of the space about a place a body fills: half of it on a flat face, more in a hollow, less at an edge that stands out. The body
 * is told apart from the air by rays through a lattice (a place is inside after an odd number of faces), and spread by three boxes in turn,
 * which come near a Gaussian.
 */
import type { Vec3 } from "../maths/vec.ts";
import type { SeamBody } from "./seams.ts";
import { BRICK_BYTES, BRICK_CELLS, BRICK_SAMPLES, type Brick, packVolume, type Volume } from "./volume.ts";

/** Cells in the size that is looked at, where there is room. */
const CELLS_IN_SIZE = 4;
const MOST_CELLS = 3_000_000;
const BOXES = 3;
/** Share of rays that meet an odd number of faces, above which a body has no inside. */
const MOST_OPEN = 0.2;
/** What is nearly full or nearly empty is far from any face. */
const FACELESS = 0.01;

interface Lattice {
	low: Vec3;
	cellM: number;
	size: readonly [number, number, number];
}

function latticeFor(bounds: readonly number[], sizeM: number): Lattice {
	const pad = 2 * sizeM;
	let cellM = sizeM / CELLS_IN_SIZE;
	const cells = () =>
		[0, 1, 2].map((c) => Math.ceil((bounds[c + 3] - bounds[c] + 2 * pad) / cellM) + 1) as unknown as Lattice["size"];
	while (cells().reduce((a, b) => a * b) > MOST_CELLS) cellM *= 1.26;
	return { low: [0, 1, 2].map((c) => bounds[c] - pad) as unknown as Vec3, cellM, size: cells() };
}

/** Where upright rays through the lattice meet faces, by rays; heights in cells. */
function crossings(
	meshes: SeamBody["meshes"],
	[w, h, d]: Vec3,
	{ low, cellM, size: [nx, , nz] }: Lattice,
): Map<number, number[]> {
	const met = new Map<number, number[]>();
	for (const { positions, indices } of meshes)
		for (let t = 0; t < indices.length; t += 3) {
			const [a, b, c] = [0, 1, 2].map((n) => {
				const at = 3 * indices[t + n];
				return [
					(w * positions[at] - low[0]) / cellM,
					(h * positions[at + 1] - low[1]) / cellM,
					(d * positions[at + 2] - low[2]) / cellM,
				];
			});
			const area = (b[0] - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (b[2] - a[2]);
			if (area === 0) continue;
			const [x0, x1] = [Math.min(a[0], b[0], c[0]), Math.max(a[0], b[0], c[0])];
			const [z0, z1] = [Math.min(a[2], b[2], c[2]), Math.max(a[2], b[2], c[2])];
			for (let k = Math.max(0, Math.ceil(z0 - OFF_Z)); k <= Math.min(nz - 1, z1 - OFF_Z); k++)
				for (let i = Math.max(0, Math.ceil(x0 - OFF_X)); i <= Math.min(nx - 1, x1 - OFF_X); i++) {
					const [x, z] = [i + OFF_X, k + OFF_Z];
					const u = ((x - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (z - a[2])) / area;
					const v = ((b[0] - a[0]) * (z - a[2]) - (x - a[0]) * (b[2] - a[2])) / area;
					if (u < 0 || v < 0 || u + v > 1) continue;
					const list = met.get(k * nx + i);
					const y = a[1] + u * (b[1] - a[1]) + v * (c[1] - a[1]);
					if (list) list.push(y);
					else met.set(k * nx + i, [y]);
				}
		}
	return met;
}

/** Rays go beside the lattice's own places by so much of a cell: those lie on edges of bodies more often than not. */
const OFF_X = 0.0137;
const OFF_Z = 0.0211;

/** The share of each cell that lies between one crossing and the next; null where the body has no inside. */
function filled(met: ReadonlyMap<number, number[]>, { size: [nx, ny, nz] }: Lattice): Float32Array | null {
	const full = new Float32Array(nx * ny * nz);
	let open = 0;
	for (const [ray, list] of met) {
		list.sort((p, q) => p - q);
		if (list.length % 2) open++;
		const [i, k] = [ray % nx, Math.floor(ray / nx)];
		for (let n = 0; n + 1 < list.length; n += 2) {
			const [from, to] = [list[n], list[n + 1]];
			for (let j = Math.max(0, Math.floor(from + 0.5)); j <= Math.min(ny - 1, to + 0.5); j++)
				full[(k * ny + j) * nx + i] += Math.max(0, Math.min(j + 0.5, to) - Math.max(j - 0.5, from));
		}
	}
	return open > MOST_OPEN * met.size ? null : full;
}

/** Means over boxes of so many cells to either side, along one direction. */
function boxed(
	from: Float32Array,
	reach: number,
	count: number,
	stride: number,
	starts: Iterable<number>,
): Float32Array {
	const out = new Float32Array(from.length);
	const wide = 2 * reach + 1;
	for (const start of starts) {
		let sum = 0;
		for (let n = -reach; n < count; n++) {
			const [enters, leaves] = [n + reach, n - reach - 1];
			if (enters < count) sum += from[start + enters * stride];
			if (leaves >= 0) sum -= from[start + leaves * stride];
			if (n >= 0) out[start + n * stride] = sum / wide;
		}
	}
	return out;
}

function spread(full: Float32Array, reach: number, { size: [nx, ny, nz] }: Lattice): Float32Array {
	const starts = (na: number, a: number, nb: number, b: number) =>
		Array.from({ length: na * nb }, (_, n) => (n % na) * a + Math.floor(n / na) * b);
	let now = full;
	for (let round = 0; round < BOXES; round++) {
		now = boxed(now, reach, nx, 1, starts(ny, nx, nz, nx * ny));
		now = boxed(now, reach, ny, nx, starts(nx, 1, nz, nx * ny));
		now = boxed(now, reach, nz, nx * ny, starts(nx, 1, ny, nx));
	}
	return now;
}

/** How full it is about places of a body of a scale, in its own metres; nothing is known where it has no inside. */
export function hollowVolume(meshes: SeamBody["meshes"], scale: Vec3, sizeM: number): Volume {
	const bounds = [1e30, 1e30, 1e30, -1e30, -1e30, -1e30];
	for (const { positions } of meshes)
		for (let n = 0; n < positions.length; n++) {
			const c = n % 3;
			const v = scale[c] * positions[n];
			bounds[c] = Math.min(bounds[c], v);
			bounds[c + 3] = Math.max(bounds[c + 3], v);
		}
	const lattice = latticeFor(bounds, sizeM);
	const { low, cellM, size } = lattice;
	const full = filled(crossings(meshes, scale, lattice), lattice);
	if (!full) return packVolume(cellM, low, []);
	const reach = Math.max(1, Math.round(sizeM / cellM / Math.sqrt(BOXES) / 2));
	const about = spread(full, reach, lattice);
	const [nx, ny] = size;
	const bricks: Brick[] = [];
	const [bi, bj, bk] = size.map((n) => Math.ceil(n / BRICK_CELLS));
	for (let k = 0; k < bk; k++)
		for (let j = 0; j < bj; j++)
			for (let i = 0; i < bi; i++) {
				const samples = new Uint8Array(BRICK_BYTES);
				let [least, most] = [1, 0];
				for (let n = 0; n < BRICK_BYTES; n++) {
					const at = [n % BRICK_SAMPLES, (n >> 3) % BRICK_SAMPLES, n >> 6].map(
						(v, c) => v + BRICK_CELLS * [i, j, k][c],
					);
					const v = at.every((p, c) => p < size[c]) ? about[(at[2] * ny + at[1]) * nx + at[0]] : 0;
					samples[n] = Math.round(255 * v);
					least = Math.min(least, v);
					most = Math.max(most, v);
				}
				if (most > FACELESS && least < 1 - FACELESS) bricks.push({ at: [i, j, k], samples });
			}
	return packVolume(cellM, low, bricks);
}
