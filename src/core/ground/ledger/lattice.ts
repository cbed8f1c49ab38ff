/** Land over a lattice of its own: places whose neighbours are asked for again and again are told from corners that are kept. */
import type { Land } from "./entry.ts";

/** Corners that are kept, a power of two: 16 bytes each. What falls on another's place is told anew. */
const KEPT = 2 ** 17;

/** Heights at corners, metres. */
class KeptHeights {
	private land: Land;
	private stepM: number;
	private i = new Int32Array(KEPT).fill(0x7fffffff);
	private j = new Int32Array(KEPT);
	private heights = new Float64Array(KEPT);

	constructor(land: Land, stepM: number) {
		this.land = land;
		this.stepM = stepM;
	}

	at(i: number, j: number): number {
		const n = (Math.imul(i, 0x9e3779b1) ^ Math.imul(j, 0x85ebca6b)) >>> 15;
		if (this.i[n] !== i || this.j[n] !== j) {
			const height = this.land(i * this.stepM, j * this.stepM);
			// The land may itself have been told from here.
			this.i[n] = i;
			this.j[n] = j;
			this.heights[n] = height;
		}
		return this.heights[n];
	}
}

/**
 * What land rises right and towards over two ways of `overM`: told at corners that lie so far apart, and mixed between four of
 * them. Where places are asked for nearer than that, each corner is told once. What is told holds until the next asking.
 */
export function risesOver(land: Land, overM: number): (x: number, z: number) => { dx: number; dz: number } {
	let kept: KeptHeights | null = null;
	const told = { dx: 0, dz: 0 };
	return (x, z) => {
		kept ??= new KeptHeights(land, overM);
		const [u, v] = [x / overM, z / overM];
		const [i, j] = [Math.floor(u), Math.floor(v)];
		const [a, b] = [u - i, v - j];
		// Central differences at the four corners, mixed: of twelve heights.
		const at = (di: number, dj: number) => (kept as KeptHeights).at(i + di, j + dj);
		const [h00, h10, h01, h11] = [at(0, 0), at(1, 0), at(0, 1), at(1, 1)];
		const [left0, left1, right0, right1] = [at(-1, 0), at(-1, 1), at(2, 0), at(2, 1)];
		const [over0, over1, under0, under1] = [at(0, -1), at(1, -1), at(0, 2), at(1, 2)];
		told.dx =
			((h10 - left0) * (1 - a) + (right0 - h00) * a) * (1 - b) + ((h11 - left1) * (1 - a) + (right1 - h01) * a) * b;
		told.dz =
			((h01 - over0) * (1 - b) + (under0 - h00) * b) * (1 - a) + ((h11 - over1) * (1 - b) + (under1 - h10) * b) * a;
		return told;
	};
}

/** Rise over run of land over a way, whichever way it falls. */
export function slopeOver(land: Land, overM: number): (x: number, z: number) => number {
	const rises = risesOver(land, overM);
	const k = 0.5 / overM;
	return (x, z) => {
		const { dx, dz } = rises(x, z);
		return k * Math.sqrt(dx * dx + dz * dz);
	};
}
