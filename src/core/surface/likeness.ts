/** Surfaces by what they look like: colour and grain, told of each in `looks.json` and taken of a patch of a picture. */
import { ciede2000, labOf } from "../colour/difference.ts";
import type { Rgb } from "./field.ts";
import looks from "./looks.json" with { type: "json" };
import { firstTexel, levelsOf, type Sheet, texelAt } from "./sheet.ts";
import type { SurfaceKind } from "./surfaces.ts";

/** What a surface, or a patch, looks like. */
export interface LooksLike {
	/** Mean of its linear colour. */
	colour: Rgb;
	/** How much its lightness strays about each quarter of it, and within: the coarse grain and the fine, CIE L*. */
	coarse: number;
	fine: number;
}

/** Squares of a side over which the mean is taken for the coarse grain. */
const SQUARES = 8;

const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length;
const spread = (list: readonly number[]): number => {
	const m = mean(list);
	return Math.sqrt(mean(list.map((v) => (v - m) ** 2)));
};

/** Of pixels, linear, row by row; what is left over of eight squares across and down is left out. */
export function looksOf(pixels: readonly Rgb[], width: number): LooksLike {
	const height = Math.floor(pixels.length / width);
	const lightness = pixels.map((p) => labOf(...(p as [number, number, number]))[0]);
	const side = Math.max(1, Math.floor(Math.min(width, height) / SQUARES));
	const means: number[] = [];
	const within: number[] = [];
	for (let y = 0; y + side <= height; y += side)
		for (let x = 0; x + side <= width; x += side) {
			const own: number[] = [];
			for (let j = 0; j < side; j++) for (let i = 0; i < side; i++) own.push(lightness[(y + j) * width + x + i]);
			means.push(mean(own));
			within.push(spread(own));
		}
	const colour = [0, 1, 2].map((c) => mean(pixels.map((p) => p[c]))) as unknown as Rgb;
	return { colour, coarse: spread(means), fine: mean(within) };
}

/** Texels of a side of the halving that a surface is looked at in. */
const LOOKED_AT = 64;

export function looksOfSheet(sheet: Sheet): LooksLike {
	const level = Math.max(0, levelsOf(sheet.size) - 1 - Math.log2(LOOKED_AT));
	const side = sheet.size >> level;
	const first = firstTexel(sheet.size, level);
	return looksOf(
		Array.from({ length: side * side }, (_, n) => texelAt(sheet, first + n).colour),
		side,
	);
}

/** Of all surfaces of which it has been told; `npm run pictures -- slabs` tells it anew. */
export const LOOKS_LIKE = looks as unknown as Readonly<Partial<Record<SurfaceKind, LooksLike>>>;

/** How much a step of lightness in the grain counts beside a step of colour. */
const GRAIN = 0.6;

/** How far two looks lie apart: CIEDE2000 of their colours, and how their grain differs; of colours alone when `colourAlone`. */
export function apart(a: LooksLike, b: LooksLike, colourAlone = false): number {
	const lab = ({ colour }: LooksLike) => labOf(...(colour as [number, number, number]));
	const colours = ciede2000(lab(a), lab(b));
	return colourAlone ? colours : colours + GRAIN * (Math.abs(a.coarse - b.coarse) + Math.abs(a.fine - b.fine));
}

/** Surfaces in the order in which they look like something, the likest first, and how far each lies apart. */
export const likest = (
	kinds: readonly SurfaceKind[],
	wanted: LooksLike,
	colourAlone = false,
): { kind: SurfaceKind; far: number }[] =>
	kinds
		.map((kind) => {
			const own = LOOKS_LIKE[kind];
			return { kind, far: own ? apart(own, wanted, colourAlone) : Number.POSITIVE_INFINITY };
		})
		.sort((a, b) => a.far - b.far);
