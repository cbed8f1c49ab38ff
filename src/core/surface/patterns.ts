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

/** What a pattern tells of a place; it holds until the next asking. */
export type Pattern<T> = (u: number, v: number) => Readonly<T>;

const LOTS = 3;

/** Points scattered one to a cell, `cells` across the square (Worley 1996). */
export function scattered(cells: number, seed: number): Pattern<Scattered> {
	// Where each point lies in its cell, and its number.
	const points = new Float64Array(LOTS * cells * cells);
	for (let y = 0; y < cells; y++)
		for (let x = 0; x < cells; x++) {
			const at = LOTS * (y * cells + x);
			points[at] = 0.1 + 0.8 * hash01(x, y, seed, 1);
			points[at + 1] = 0.1 + 0.8 * hash01(x, y, seed, 2);
			points[at + 2] = hash01(x, y, seed, 3);
		}
	const out: Scattered = { nearest: 0, second: 0, lot: 0 };
	return (u, v) => {
		const [x, y] = [u * cells, v * cells];
		const [x0, y0] = [Math.floor(x), Math.floor(y)];
		let [nearest, second, own] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, 0];
		for (let j = y0 - 1; j <= y0 + 1; j++) {
			const row = wrapped(j, cells) * cells;
			for (let i = x0 - 1; i <= x0 + 1; i++) {
				const at = LOTS * (row + wrapped(i, cells));
				const dx = i + points[at] - x;
				const dy = j + points[at + 1] - y;
				const far = dx * dx + dy * dy;
				if (far < nearest) {
					second = nearest;
					nearest = far;
					own = at;
				} else if (far < second) second = far;
			}
		}
		out.nearest = Math.sqrt(nearest);
		out.second = Math.sqrt(second);
		out.lot = points[own + 2];
		return out;
	};
}

/** Blocks in courses: how many rows over the square and how many of them in a row, and by which share each row is shifted. */
export interface Courses {
	rows: number;
	inRow: number;
	shift: number;
	/** Side of the square, metres. */
	sideM: number;
	/** How far each row strays from its shift, as a share of a block. */
	strays: number;
}

/** A place in a course: metres to the block's nearest edge, and the block's own number. */
export interface InBlock {
	edgeM: number;
	lot: number;
}

export function courses({ rows, inRow, shift, sideM, strays }: Courses, seed: number): Pattern<InBlock> {
	const out: InBlock = { edgeM: 0, lot: 0 };
	return (u, v) => {
		const row = Math.floor(v * rows);
		const own = wrapped(row, rows);
		const x = u * inRow + shift * own + strays * hash01(own, seed, 7);
		const column = Math.floor(x);
		const [right, down] = [x - column, v * rows - row];
		const aside = (Math.min(right, 1 - right) * sideM) / inRow;
		const under = (Math.min(down, 1 - down) * sideM) / rows;
		out.edgeM = Math.min(aside, under);
		out.lot = hash01(own, wrapped(column, inRow), seed, 8);
		return out;
	};
}

/** The same pattern at places that stray by so much of the square, in clouds of so many cells. */
export function strayed<T>(pattern: Pattern<T>, by: number, cells: number, seed: number): Pattern<T> {
	return (u, v) => pattern(u + by * cloudy(u, v, cells, seed, 3), v + by * cloudy(u, v, cells, seed + 2, 3));
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
