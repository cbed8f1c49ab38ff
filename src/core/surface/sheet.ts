/**
 * A surface baked: its recipe over a square, once, with all halvings down to one texel. What a halving cannot show of its
 * slopes any more it keeps as their variance, by which the surface is rougher from afar (Toksvig 2005).
 */
import type { Recipe, Texel } from "./recipe.ts";

export interface SheetLevel {
	/** Texels of a side. */
	size: number;
	/** Roots of the linear colour and the roughness, bytes, row by row: towards, right within. */
	colour: Uint8Array;
	/** Heights, 0 at the sheet's least and 65,535 at its most. */
	height: Uint16Array;
	/** Variance of the slope (rise over run, both ways together) within a texel. */
	variance: Float32Array;
}

export interface Sheet {
	sideM: number;
	leastMm: number;
	mostMm: number;
	/** The finest first. */
	levels: SheetLevel[];
}

/** What is halved: means of all that a texel covers. */
interface Means {
	size: number;
	/** Red, green, blue and roughness. */
	colour: Float32Array;
	height: Float32Array;
	/** Slope right and towards, and the sum of their squares. */
	slope: Float32Array;
}

const SLOPES = 3;
const ROWS = 32;

/** Bytes of a sheet with all its halvings. */
export const sheetBytes = ({ levels }: Sheet): number =>
	levels.reduce((sum, l) => sum + l.colour.byteLength + l.height.byteLength + l.variance.byteLength, 0);

/** Texels of a side at most and at least; a power of two. */
export const MOST_TEXELS = 4096;
export const LEAST_TEXELS = 4;

function* fullOf({ made, sideM }: Recipe, seed: number, size: number): Generator<number, Means> {
	const at = made(seed);
	const texel: Texel = { heightMm: 0, red: 0, green: 0, blue: 0, roughness: 1 };
	const colour = new Float32Array(4 * size * size);
	const height = new Float32Array(size * size);
	for (let j = 0; j < size; j++) {
		if (j % ROWS === 0) yield j / size;
		for (let i = 0; i < size; i++) {
			at((i + 0.5) / size, (j + 0.5) / size, texel);
			const n = j * size + i;
			colour[4 * n] = texel.red;
			colour[4 * n + 1] = texel.green;
			colour[4 * n + 2] = texel.blue;
			colour[4 * n + 3] = texel.roughness;
			height[n] = texel.heightMm;
		}
	}
	const slope = new Float32Array(SLOPES * size * size);
	const run = (2 * 1000 * sideM) / size;
	for (let j = 0; j < size; j++)
		for (let i = 0; i < size; i++) {
			const [left, right] = [(i + size - 1) % size, (i + 1) % size];
			const [up, down] = [(j + size - 1) % size, (j + 1) % size];
			const dx = (height[j * size + right] - height[j * size + left]) / run;
			const dy = (height[down * size + i] - height[up * size + i]) / run;
			const n = SLOPES * (j * size + i);
			slope[n] = dx;
			slope[n + 1] = dy;
			slope[n + 2] = dx * dx + dy * dy;
		}
	return { size, colour, height, slope };
}

/** The same in half as many texels a side. */
function halved({ size, ...from }: Means): Means {
	const half = size / 2;
	const mean = (list: Float32Array, width: number) => {
		const out = new Float32Array(width * half * half);
		for (let j = 0; j < half; j++)
			for (let i = 0; i < half; i++)
				for (let c = 0; c < width; c++) {
					const a = width * (2 * j * size + 2 * i) + c;
					const b = a + width * size;
					out[width * (j * half + i) + c] = 0.25 * (list[a] + list[a + width] + list[b] + list[b + width]);
				}
		return out;
	};
	return { size: half, colour: mean(from.colour, 4), height: mean(from.height, 1), slope: mean(from.slope, SLOPES) };
}

const byte = (share: number): number => Math.round(255 * Math.min(1, Math.max(0, share)));

function levelOf({ size, colour, height, slope }: Means, leastMm: number, mostMm: number): SheetLevel {
	const range = mostMm - leastMm || 1;
	const variance = new Float32Array(size * size);
	for (let n = 0; n < variance.length; n++) {
		const [dx, dy] = [slope[SLOPES * n], slope[SLOPES * n + 1]];
		variance[n] = Math.max(0, slope[SLOPES * n + 2] - dx * dx - dy * dy);
	}
	return {
		size,
		colour: Uint8Array.from(colour, (v, i) => byte(i % 4 === 3 ? v : Math.sqrt(v))),
		height: Uint16Array.from(height, (h) => Math.round((65_535 * (h - leastMm)) / range)),
		variance,
	};
}

/**
 * Bakes a recipe into a sheet of so many texels a side, a power of two; tells now and then which share is done. The same bytes
 * for the same recipe, seed and size on every engine.
 */
export function* bakeSteps(recipe: Recipe, seed: number, size: number): Generator<number, Sheet> {
	if (!(size >= LEAST_TEXELS && size <= MOST_TEXELS && Number.isInteger(Math.log2(size))))
		throw new Error(`A sheet has ${LEAST_TEXELS} to ${MOST_TEXELS} texels a side, a power of two, not ${size}.`);
	const steps = fullOf(recipe, seed, size);
	let step = steps.next();
	for (; !step.done; step = steps.next()) yield 0.8 * step.value;
	let means = step.value;
	let [leastMm, mostMm] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
	for (const h of means.height) {
		leastMm = Math.min(leastMm, h);
		mostMm = Math.max(mostMm, h);
	}
	const levels = [levelOf(means, leastMm, mostMm)];
	while (means.size > 1) {
		means = halved(means);
		levels.push(levelOf(means, leastMm, mostMm));
		yield 1 - 0.2 * (means.size / size);
	}
	return { sideM: recipe.sideM, leastMm, mostMm, levels };
}

/** The same at once. */
export function bakeSheet(recipe: Recipe, seed: number, size: number): Sheet {
	const steps = bakeSteps(recipe, seed, size);
	for (;;) {
		const step = steps.next();
		if (step.done) return step.value;
	}
}
