/**
 * Rings and spokes on which the ground is meshed. About one lens: radii that grow by a constant factor, spokes dense inside
 * the frame and sparse outside it. About a way of lenses: both as close as the nearest lens that sees a place would have
 * them, so that one mesh serves all frames; past {@link MOST_VERTICES} all steps are widened alike.
 */
import { atan2, cos, DEG, exp, log, sin } from "../maths/functions.ts";

export interface LensFootprint {
	x: number;
	z: number;
	headingDeg: number;
	/** Half of the horizontal field to be meshed finely, degrees. */
	halfFieldDeg: number;
	/** Metres to the nearest ground that is seen; infinite when none is. */
	nearM: number;
}

export interface GroundDetail {
	rings: number;
	spokesInView: number;
	spokesOutside: number;
}

export const GROUND_DETAIL: GroundDetail = { rings: 400, spokesInView: 520, spokesOutside: 72 };
/** What a hand is shown that shapes the land, a sixteenth of it: all of it comes when the hand rests. */
export const COARSE_DETAIL: GroundDetail = { rings: 100, spokesInView: 128, spokesOutside: 20 };
const INNER_M = 0.35;
export const OUTER_M = 60_000;

/** Radii (metres) and headings (degrees) of rings and spokes, and the place that they lie about. */
export interface Fan {
	x: number;
	z: number;
	radii: Float64Array;
	headings: Float64Array;
}

/** Logarithm of the factor by which radii grow. */
const growthOf = (rings: number): number => log(OUTER_M / INNER_M) / (rings - 1);

/** Rings and spokes about one lens. */
function fanOf(foot: LensFootprint, { rings, spokesInView, spokesOutside }: GroundDetail): Fan {
	const half = Math.min(foot.halfFieldDeg, 170);
	const growth = growthOf(rings);
	return {
		x: foot.x,
		z: foot.z,
		radii: Float64Array.from({ length: rings }, (_, r) => INNER_M * exp(growth * r)),
		headings: Float64Array.from({ length: spokesInView + spokesOutside }, (_, k) =>
			k < spokesInView
				? foot.headingDeg + (-half + (2 * half * k) / spokesInView)
				: foot.headingDeg + (half + ((360 - 2 * half) * (k - spokesInView)) / spokesOutside),
		),
	};
}

/** Feet of a way by which its fan is chosen at most, and the most vertices that it may have. */
const MOST_FEET = 48;
const MOST_VERTICES = 700_000;
/** Bins of radii, of a constant factor, and of headings, of one degree. */
const RADIUS_BINS = 200;
const HEADINGS = 360;

/** What a fan about a place must be like, so that each lens of a way sees triangles no larger than its own fan would have. */
interface Need {
	x: number;
	z: number;
	/** Least step from ring to ring, metres, by bins of radius. */
	rings: Float64Array;
	/** Least step from spoke to spoke, radians, by degrees of heading. */
	spokes: Float64Array;
}

const binOf = (radius: number): number =>
	Math.min(RADIUS_BINS - 1, Math.max(0, Math.floor((log(radius / INNER_M) / log(OUTER_M / INNER_M)) * RADIUS_BINS)));

function needAbout(x: number, z: number, feet: readonly LensFootprint[], detail: GroundDetail): Need {
	const growth = exp(growthOf(detail.rings)) - 1;
	const rings = new Float64Array(RADIUS_BINS).fill(Infinity);
	const spokes = new Float64Array(HEADINGS).fill(Infinity);
	const extent = Math.max(...feet.map((f) => Math.hypot(f.x - x, f.z - z)));
	for (const foot of feet) {
		const half = Math.min(foot.halfFieldDeg, 170);
		const turn = (2 * half * DEG) / detail.spokesInView;
		const near = Math.max(INNER_M, foot.nearM);
		for (let deg = -half; deg <= half; deg += 0.8) {
			const h = (foot.headingDeg + deg) * DEG;
			const [dx, dz] = [sin(h), -cos(h)];
			// Far beyond the way every lens sees the same.
			for (let far = near; far < near + 30 * extent; far *= 1.06) {
				const [px, pz] = [foot.x + dx * far - x, foot.z + dz * far - z];
				const radius = Math.max(INNER_M, Math.hypot(px, pz));
				const bin = binOf(radius);
				rings[bin] = Math.min(rings[bin], growth * far);
				const heading = ((Math.floor(atan2(px, -pz) / DEG) % HEADINGS) + HEADINGS) % HEADINGS;
				spokes[heading] = Math.min(spokes[heading], (turn * far) / radius);
			}
			const heading = ((Math.floor(foot.headingDeg + deg) % HEADINGS) + HEADINGS) % HEADINGS;
			spokes[heading] = Math.min(spokes[heading], turn);
		}
	}
	return { x, z, rings, spokes };
}

/** Rings and spokes as a need says, all steps by a factor. */
function fanBy({ x, z, rings, spokes }: Need, detail: GroundDetail, factor: number): Fan {
	const growth = exp(growthOf(detail.rings)) - 1;
	const coarse = (360 * DEG) / (2 * detail.spokesOutside);
	const radii: number[] = [INNER_M];
	for (let r = INNER_M; r < OUTER_M; ) {
		const bin = binOf(r);
		const least = Math.min(rings[bin], rings[Math.min(RADIUS_BINS - 1, bin + 1)], growth * r);
		r += least * factor;
		radii.push(Math.min(r, OUTER_M));
	}
	const headings: number[] = [];
	for (let h = 0; h < 360; ) {
		headings.push(h);
		const [a, b, c] = [-1, 0, 1].map((k) => spokes[(Math.floor(h) + k + HEADINGS) % HEADINGS]);
		h += (Math.min(a, b, c, coarse) * factor) / DEG;
	}
	return { x, z, radii: Float64Array.from(radii), headings: Float64Array.from(headings) };
}

/** The place that the ground of a way of lenses is meshed about. */
export function footOfWay(feet: readonly LensFootprint[], detail = GROUND_DETAIL): [number, number] {
	if (feet.length === 1) return [feet[0].x, feet[0].z];
	const { x, z } = needOf(feet, detail);
	return [x, z];
}

const needs = new WeakMap<readonly LensFootprint[], Need>();

/** The need about that place of a way for which it takes the fewest triangles: about one of its ends or its middle. */
function needOf(feet: readonly LensFootprint[], detail: GroundDetail): Need {
	const known = needs.get(feet);
	if (known) return known;
	const every = Math.ceil(feet.length / MOST_FEET);
	const some = feet.filter((_, i) => i % every === 0 || i === feet.length - 1);
	const [first, last] = [some[0], some[some.length - 1]];
	const middle = { x: (first.x + last.x) / 2, z: (first.z + last.z) / 2 };
	const mean = {
		x: some.reduce((s, f) => s + f.x, 0) / some.length,
		z: some.reduce((s, f) => s + f.z, 0) / some.length,
	};
	const all = [first, last, middle, mean].map(({ x, z }) => {
		const need = needAbout(x, z, some, detail);
		return { need, vertices: verticesOf(fanBy(need, detail, 1)) };
	});
	const best = all.reduce((a, b) => (b.vertices < a.vertices ? b : a)).need;
	needs.set(feet, best);
	return best;
}

const verticesOf = ({ radii, headings }: Fan): number => radii.length * headings.length;

function fanOfWay(feet: readonly LensFootprint[], detail: GroundDetail): Fan {
	const need = needOf(feet, detail);
	let factor = 1;
	for (;;) {
		const fan = fanBy(need, detail, factor);
		if (verticesOf(fan) <= MOST_VERTICES) return fan;
		factor *= Math.max(1.02, Math.sqrt(verticesOf(fan) / MOST_VERTICES));
	}
}

/** Rings and spokes for a lens, or for all lenses of a way. */
export const fanFor = (feet: readonly LensFootprint[], detail: GroundDetail): Fan =>
	feet.length === 1 ? fanOf(feet[0], detail) : fanOfWay(feet, detail);
