/** What surfaces are put together from: patterns over a square from 0 to 1 that repeat after it. */
import { hash01 } from "../maths/hash.ts";
import { fractal2 } from "../maths/noise.ts";
import type { Texel } from "./recipe.ts";

export type Rgb = readonly [number, number, number];

/** Sums of noise (Perlin 2002), `cells` of the coarsest across the square, about −1 to 1. */
export const cloudy = (u: number, v: number, cells: number, seed: number, octaves = 5, gain = 0.5): number =>
	fractal2(u * cells, v * cells, seed, octaves, gain, cells);

/** The same drawn out: `across` cells right, `along` cells towards. Both repeat after the square. */
export function drawnOut(u: number, v: number, across: number, along: number, seed: number, octaves = 4): number {
	let [value, all, gain] = [0, 0, 1];
	for (let i = 0; i < octaves; i++) {
		const k = 2 ** i;
		value += gain * lattice(u, v, across * k, along * k, seed + 101 * i);
		all += gain;
		gain *= 0.5;
	}
	return value / all;
}

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/** Value noise over a lattice of so many cells, −1 to 1. */
function lattice(u: number, v: number, across: number, along: number, seed: number): number {
	const [x, y] = [u * across, v * along];
	const [x0, y0] = [Math.floor(x), Math.floor(y)];
	const [a, b] = [fade(x - x0), fade(y - y0)];
	const at = (i: number, j: number) => hash01(wrapped(x0 + i, across), wrapped(y0 + j, along), seed);
	const top = at(0, 0) * (1 - a) + at(1, 0) * a;
	const bottom = at(0, 1) * (1 - a) + at(1, 1) * a;
	return 2 * (top * (1 - b) + bottom * b) - 1;
}

const wrapped = (i: number, n: number): number => ((i % n) + n) % n;

/** A place among scattered points: how far the nearest two are, in cells, and the nearest one's own number from 0 to 1. */
export interface Scattered {
	nearest: number;
	second: number;
	lot: number;
}

/** Points scattered one to a cell, `cells` across the square (Worley 1996). */
export function scattered(u: number, v: number, cells: number, seed: number, out: Scattered): Scattered {
	const [x, y] = [u * cells, v * cells];
	const [x0, y0] = [Math.floor(x), Math.floor(y)];
	let [nearest, second, lot] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, 0];
	for (let j = -1; j <= 1; j++)
		for (let i = -1; i <= 1; i++) {
			const [cx, cy] = [wrapped(x0 + i, cells), wrapped(y0 + j, cells)];
			const dx = x0 + i + 0.1 + 0.8 * hash01(cx, cy, seed, 1) - x;
			const dy = y0 + j + 0.1 + 0.8 * hash01(cx, cy, seed, 2) - y;
			const far = dx * dx + dy * dy;
			if (far < nearest) {
				second = nearest;
				nearest = far;
				lot = hash01(cx, cy, seed, 3);
			} else if (far < second) second = far;
		}
	out.nearest = Math.sqrt(nearest);
	out.second = Math.sqrt(second);
	out.lot = lot;
	return out;
}

/** Blocks in courses: how many rows over the square and how many of them in a row, and by which share each row is shifted. */
export interface Courses {
	rows: number;
	inRow: number;
	shift: number;
	/** Side of the square, metres. */
	sideM: number;
}

/** A place in a course: metres to the block's nearest edge, where it lies in it (0 to 1), and the block's own number. */
export interface InBlock {
	edgeM: number;
	right: number;
	down: number;
	lot: number;
}

export function inCourses(
	u: number,
	v: number,
	{ rows, inRow, shift, sideM }: Courses,
	seed: number,
	out: InBlock,
): InBlock {
	const row = Math.floor(v * rows);
	const own = wrapped(row, rows);
	const x = u * inRow + shift * own + hash01(own, seed, 7) * (shift === 0.5 ? 0.12 : 1);
	const column = Math.floor(x);
	out.right = x - column;
	out.down = v * rows - row;
	out.lot = hash01(own, wrapped(column, inRow), seed, 8);
	const aside = (Math.min(out.right, 1 - out.right) * sideM) / inRow;
	const under = (Math.min(out.down, 1 - out.down) * sideM) / rows;
	out.edgeM = Math.min(aside, under);
	return out;
}

/** Puts a mixture of two colours into a texel. */
export function tint(out: Texel, a: Rgb, b: Rgb, share: number): void {
	const t = Math.min(1, Math.max(0, share));
	out.red = a[0] + (b[0] - a[0]) * t;
	out.green = a[1] + (b[1] - a[1]) * t;
	out.blue = a[2] + (b[2] - a[2]) * t;
}

/** Mixes another colour into what stands in a texel. */
export function over(out: Texel, colour: Rgb, share: number): void {
	const t = Math.min(1, Math.max(0, share));
	out.red += (colour[0] - out.red) * t;
	out.green += (colour[1] - out.green) * t;
	out.blue += (colour[2] - out.blue) * t;
}

/** Makes a texel's colour brighter or darker by a factor. */
export function shade(out: Texel, factor: number): void {
	out.red *= factor;
	out.green *= factor;
	out.blue *= factor;
}
