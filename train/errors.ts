/**
 * How far a picture is from the truth. Relative squared error: of each value over the truth's own square, with a floor so that no pixel of
 * the dark counts for all (Rousselle et al. 2011); and the same without the worst pixels, which a single bright sample makes.
 */
import type { Planes } from "../src/tracer/denoise.ts";

/** What is added to the square of the truth, as a share of the square of its mean. */
const FLOOR = 1e-2;
/** Share of the pixels that are left out as the worst. */
const WORST = 1e-3;

/** The most that a value counts in means, in exposed light, of which a print shows one as white: a sun's disc of ten pixels would be all of them. */
const MOST_IN_MEAN = 16;

const meanOf = (planes: Planes): number => {
	let sum = 0;
	for (const plane of planes) for (const v of plane) sum += Math.min(MOST_IN_MEAN, v) / (3 * plane.length);
	return sum;
};

export interface Errors {
	/** Mean of relative squared errors; and without the worst thousandth of the pixels. */
	all: number;
	most: number;
	/** Mean of the picture over that of the truth, without what is brighter than any print shows. */
	mean: number;
}

/** Errors of a picture, red, green and blue, exposed, against the truth of the same size. */
export function errorsOf(truth: Planes, other: Planes): Errors {
	const mean = meanOf(truth);
	const floor = FLOOR * mean * mean;
	const each = new Float64Array(truth[0].length);
	for (let c = 0; c < 3; c++)
		for (let i = 0; i < each.length; i++) each[i] += (other[c][i] - truth[c][i]) ** 2 / (truth[c][i] ** 2 + floor) / 3;
	const sum = (of: Float64Array) => of.reduce((s, v) => s + v, 0) / of.length;
	const kept = each
		.slice()
		.sort()
		.subarray(0, Math.ceil(each.length * (1 - WORST)));
	return { all: sum(each), most: sum(kept), mean: meanOf(other) / mean };
}
