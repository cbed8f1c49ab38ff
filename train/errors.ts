/**
 * How far a picture is from the truth. Relative squared error: of each value over the truth's own square, with a floor so that no pixel of
 * the dark counts for all (Rousselle et al. 2011); and the same without the worst pixels, which a single bright sample makes.
 */
import { luminanceOf } from "../src/core/colour/linear.ts";
import { meansAround } from "../src/core/maths/around.ts";
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

/** What detail is looked for in: pixels about each. */
const ABOUT = 2;
/** Stops that a pixel must lie beside its neighbours to be a detail, and within which all about it must keep to be none. */
const DETAIL = 0.25;
const PLAIN = 0.02;

export interface Detail {
	/** Share of the contrast of true detail that is left: 1 is all of it. */
	kept: number;
	/** Stops (root mean square) by which pixels lie beside their neighbours where nothing of that is true. */
	made: number;
}

/** What stands out from 5 × 5 pixels about it, in stops of light over a hundredth of white. */
function standing(planes: Planes, width: number): Float64Array {
	const stops = Float64Array.from(planes[0], (_, i) =>
		Math.log2(0.01 + Math.min(MOST_IN_MEAN, luminanceOf(planes[0][i], planes[1][i], planes[2][i]))),
	);
	const about = meansAround(stops, width, ABOUT);
	return stops.map((v, i) => v - about[i]);
}

/** How much of the truth's fine detail a picture has, and how much it has where there is none. */
export function detailOf(truth: Planes, other: Planes, width: number): Detail {
	const [told, found] = [standing(truth, width), standing(other, width)];
	const height = told.length / width;
	let [both, own, square, plain] = [0, 0, 0, 0];
	for (let y = ABOUT; y < height - ABOUT; y++)
		for (let x = ABOUT; x < width - ABOUT; x++) {
			const i = y * width + x;
			if (Math.abs(told[i]) > DETAIL) {
				both += told[i] * found[i];
				own += told[i] * told[i];
			}
			let most = 0;
			for (let j = -1; j <= 1; j++)
				for (let k = -1; k <= 1; k++) most = Math.max(most, Math.abs(told[i + j * width + k]));
			if (most > PLAIN) continue;
			square += found[i] * found[i];
			plain++;
		}
	return { kept: own > 0 ? both / own : 1, made: Math.sqrt(square / Math.max(1, plain)) };
}

/** A number of samples, and what is off with them. */
export interface Off {
	samples: number;
	off: number;
}

/**
 * Samples at which a row of pictures as traced is off by so much: straight between two of them in logarithms, and on by the slope of the last two
 * beyond. Null where more samples are no nearer.
 */
export function samplesFor(traced: readonly Off[], off: number): number | null {
	const found = traced.findIndex((t) => t.off <= off);
	const k = found < 0 ? traced.length - 1 : Math.max(1, found);
	const [a, b] = [traced[k - 1], traced[k]];
	const slope = Math.log(b.off / a.off) / Math.log(b.samples / a.samples);
	return slope < 0 ? a.samples * (off / a.off) ** (1 / slope) : null;
}
