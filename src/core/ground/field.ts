/**
 * What is not told by one place alone: how land that has worn differs from the land before, over a square of its own. Hosts make
 * such squares (see `Makers`) and compiles bring them here before anything asks for a height; they are results of the ledger
 * and of nothing else, kept by the key of all that they are made from.
 */
import { clamp } from "../maths/functions.ts";

/** A square of cells, rows from the north (−z), the first of a row in the west (−x). */
export interface LandSquareCells {
	/** The corner of its first cell: right and towards, metres. */
	x0: number;
	z0: number;
	/** Side of a cell, metres, and cells of a side. */
	stepM: number;
	cells: number;
}

/** Metres by which each cell differs from the land before. */
export interface LandField extends LandSquareCells {
	changeM: Float32Array;
}

/** What wears it: running water that cuts and lays, or slopes that come to rest. */
export type Wear =
	| {
			by: "water";
			/** How far it has gone: 0 is nothing, 1 a land whose rivers lie nearly level. */
			power: number;
			/** What is laid down again of what is carried, 0 to 1. */
			laying: number;
			/** The steepest that slopes stay, degrees. */
			restDeg: number;
			seed: number;
	  }
	| { by: "slope"; restDeg: number; rounded: number };

/** A square of land that is to be worn: metres, over the ground's own level. */
export interface LandWork extends LandSquareCells {
	heightsM: Float32Array;
	wear: Wear;
}

/** Bytes of fields that are held besides the newest of each entry; one of 2,048 cells a side takes 16 MiB. */
const MOST_BYTES = 160 * 2 ** 20;

const held = new Map<string, LandField>();
/** The newest field of an entry, in whose place a view may take it until its own is there. */
const newest = new Map<string, LandField>();

let count = 0;

const bytesHeld = (): number => [...held.values()].reduce((sum, f) => sum + f.changeM.byteLength, 0);

/** Keeps a field by the key of all that it is made from, and as the newest of the entry of an id. */
export function holdField(key: string, id: string, field: LandField): void {
	held.delete(key);
	held.set(key, field);
	newest.set(id, field);
	landChanged();
	for (const old of held.keys()) if (old !== key && bytesHeld() > MOST_BYTES) held.delete(old);
	for (const old of newest.keys()) if (old !== id && newest.size > 40) newest.delete(old);
}

/** Says that land may be otherwise from now on: a field or a picture that it is made from is held. */
export function landChanged(): void {
	count++;
}

/** Goes up whenever something is held that land is made from: what has been asked of it before may be otherwise now. */
export const landHeld = (): number => count;

export const heldField = (key: string): LandField | undefined => held.get(key);

export const newestField = (id: string): LandField | undefined => newest.get(id);

/** Weights of a uniform cubic B-spline at a share of a cell. */
const spline = (t: number): [number, number, number, number] => {
	const s = 1 - t;
	return [(s * s * s) / 6, (4 - 6 * t * t + 3 * t * t * t) / 6, (4 - 6 * s * s + 3 * s * s * s) / 6, (t * t * t) / 6];
};

/**
 * Metres of a field at a place, between its cells by a cubic spline (Unser 1999): slopes, too, go over without a crease. Outside it
 * is 0.
 */
export function changeAt({ x0, z0, stepM, cells, changeM }: LandField, x: number, z: number): number {
	const [u, v] = [(x - x0) / stepM - 0.5, (z - z0) / stepM - 0.5];
	if (!(u > -1 && v > -1 && u < cells && v < cells)) return 0;
	const [i, j] = [Math.floor(u), Math.floor(v)];
	const [wx, wz] = [spline(u - i), spline(v - j)];
	let sum = 0;
	for (let b = 0; b < 4; b++) {
		const row = clamp(j + b - 1, 0, cells - 1) * cells;
		let line = 0;
		for (let a = 0; a < 4; a++) line += wx[a] * changeM[row + clamp(i + a - 1, 0, cells - 1)];
		sum += wz[b] * line;
	}
	return sum;
}
