/**
 * A number in 0 to 1 that is known in some parts of space: cubes ("bricks") of 8 samples a side on a lattice, one byte each. Neighbours
 * share the samples of their common face, so that a place is read inside one brick. Bricks are found by a table with open addresses;
 * where none is, the reader says what it takes. `tracer/kernel/volume.ts` and `ui/view/sheetShaders.ts` read the same words.
 *
 * Words: the table's capacity less one, how many bricks there are, two that are free; then the table, four words an entry (the three
 * numbers of a brick, as signed whole numbers, and the word at which its samples begin, 0 for none); then samples, across first, then up,
 * then deep.
 */
import { hash32 } from "../maths/hash.ts";
import type { Vec3 } from "../maths/vec.ts";

/** Samples of a side of a brick, and cells between them. */
export const BRICK_SAMPLES = 8;
export const BRICK_CELLS = BRICK_SAMPLES - 1;
export const BRICK_BYTES = BRICK_SAMPLES ** 3;
const BRICK_WORDS = BRICK_BYTES / 4;
const HEADER = 4;

export interface Volume {
	/** Metres between samples. */
	cellM: number;
	/** Place of the sample 0, 0, 0. */
	anchor: Vec3;
	words: Uint32Array;
}

/** Something on the way to volumes, kept by its key. */
export type Kept = <T>(key: string, make: () => T) => T;

/** A brick by its three numbers, in bricks from the anchor. */
export type BrickAt = readonly [number, number, number];

export interface Brick {
	at: BrickAt;
	samples: Uint8Array;
}

const LIMIT = 2 ** 16;

/** One number for a brick's three; they lie within ±65,536. */
export const brickKey = (i: number, j: number, k: number): number =>
	((i + LIMIT) * 2 * LIMIT + (j + LIMIT)) * 2 * LIMIT + (k + LIMIT);

export function brickOf(key: number): BrickAt {
	const k = key % (2 * LIMIT);
	const rest = (key - k) / (2 * LIMIT);
	const j = rest % (2 * LIMIT);
	return [(rest - j) / (2 * LIMIT) - LIMIT, j - LIMIT, k - LIMIT];
}

const slotOf = (i: number, j: number, k: number): number =>
	hash32(Math.imul(i, 0x9e3779b1) ^ hash32(Math.imul(j, 0x85ebca77) ^ hash32(Math.imul(k, 0xc2b2ae3d))));

/** A volume of these bricks, each at a place of its own. */
export function packVolume(cellM: number, anchor: Vec3, bricks: readonly Brick[]): Volume {
	let capacity = 4;
	while (capacity < 2 * bricks.length) capacity *= 2;
	const first = HEADER + 4 * capacity;
	const words = new Uint32Array(first + BRICK_WORDS * bricks.length);
	const bytes = new Uint8Array(words.buffer);
	words[0] = capacity - 1;
	words[1] = bricks.length;
	for (const [n, { at, samples }] of bricks.entries()) {
		let slot = slotOf(...at) & (capacity - 1);
		while (words[HEADER + 4 * slot + 3]) slot = (slot + 1) & (capacity - 1);
		const begins = first + BRICK_WORDS * n;
		words.set([...at.map((v) => v >>> 0), begins], HEADER + 4 * slot);
		bytes.set(samples, 4 * begins);
	}
	return { cellM, anchor, words };
}

/** The number at a place, between eight samples; `missing` where there is no brick. */
export function volumeAt({ cellM, anchor, words }: Volume, [x, y, z]: Vec3, missing: number): number {
	const at = [x - anchor[0], y - anchor[1], z - anchor[2]].map((v) => v / (cellM * BRICK_CELLS));
	const [i, j, k] = at.map(Math.floor);
	const mask = words[0];
	let slot = slotOf(i, j, k) & mask;
	for (;;) {
		const entry = HEADER + 4 * slot;
		const begins = words[entry + 3];
		if (!begins) return missing;
		if (words[entry] === i >>> 0 && words[entry + 1] === j >>> 0 && words[entry + 2] === k >>> 0) {
			const samples = new Uint8Array(words.buffer, words.byteOffset + 4 * begins, BRICK_BYTES);
			return between(
				samples,
				at.map((v) => (v - Math.floor(v)) * BRICK_CELLS),
			);
		}
		slot = (slot + 1) & mask;
	}
}

function between(samples: Uint8Array, at: readonly number[]): number {
	const [x, y, z] = at.map((v) => Math.min(BRICK_CELLS - 1, Math.floor(v)));
	let sum = 0;
	for (let n = 0; n < 8; n++) {
		const [a, b, c] = [n & 1, (n >> 1) & 1, n >> 2];
		const share = [a, b, c].reduce((s, high, axis) => {
			const f = at[axis] - [x, y, z][axis];
			return s * (high ? f : 1 - f);
		}, 1);
		sum += share * samples[((z + c) * BRICK_SAMPLES + y + b) * BRICK_SAMPLES + x + a];
	}
	return sum / 255;
}

/** The bricks that a volume has. */
export function bricksIn({ words }: Volume): BrickAt[] {
	const found: BrickAt[] = [];
	for (let slot = 0; slot <= words[0]; slot++) {
		const entry = HEADER + 4 * slot;
		if (words[entry + 3]) found.push([words[entry] | 0, words[entry + 1] | 0, words[entry + 2] | 0]);
	}
	return found;
}
