/** What bodies of drawn lines have in common. */
import type { FlatPoint } from "../doc/schema/curve.ts";
import type { Shape } from "../doc/schema/piece.ts";
import { placesAlong, type Stretch, stretches } from "../maths/curve.ts";
import { signedArea } from "../maths/polygon.ts";
import type { Vec3 } from "../maths/vec.ts";
import type { Drawn, Fit } from "./geometry.ts";
import type { EdgeRun, Spot } from "./profile.ts";

/** Least extent that can be stretched to a size, metres. */
const LEAST_M = 1e-6;

type Box = Pick<Fit, "low" | "high">;

export function boxOf(places: readonly Vec3[]): Box {
	const pick = (how: (...v: number[]) => number, c: 0 | 1 | 2) => places.reduce((v, p) => how(v, p[c]), places[0][c]);
	return {
		low: [pick(Math.min, 0), pick(Math.min, 1), pick(Math.min, 2)],
		high: [pick(Math.max, 0), pick(Math.max, 1), pick(Math.max, 2)],
	};
}

const ROUNDS = 6;
/** Part of a size that the line takes at least: what is thicker is squeezed with it. */
const LEAST_LINE = 0.05;

/**
 * Stretches a line until the body about it has a size: what is about the line stays as thick as it is. `extent` is that of
 * the line, `box` that of the body when the line is stretched so.
 */
export function fitted(extent: Vec3, box: (by: Vec3) => Box, size: Vec3): Fit {
	let by: Vec3 = [1, 1, 1];
	for (let round = 0; ; round++) {
		const { low, high } = box(by);
		const next = by.map((now, c) => {
			if (extent[c] < LEAST_M) return 1;
			const about = high[c] - low[c] - now * extent[c];
			return Math.max(LEAST_LINE * size[c], size[c] - about) / extent[c];
		}) as unknown as Vec3;
		if (round === ROUNDS || next.every((v, c) => Math.abs(v - by[c]) < 1e-12 * v)) return { by, low, high };
		by = next;
	}
}

/** Extent of places along the three ways. */
export function extentOf(places: readonly Vec3[]): Vec3 {
	const { low, high } = boxOf(places);
	return [high[0] - low[0], high[1] - low[1], high[2] - low[2]];
}

/** The stretches of an outline counter-clockwise; each keeps the number of the point that it began at when it was drawn. */
export function counterClockwise(points: readonly FlatPoint[]): Stretch[] {
	const all = stretches(points, true);
	if (signedArea(placesAlong(points, true)) > 0) return all;
	return backwards(all);
}

/** Stretches the other way round. */
export const backwards = (all: readonly Stretch[]): Stretch[] =>
	[...all].reverse().map((s) => ({
		n: s.n,
		spots: [...s.spots].reverse(),
		ways: s.ways.map((w) => w.map((v) => -v)).reverse(),
		begins: s.ends,
		ends: s.begins,
	}));

const spot = (p: readonly number[]): Spot => [p[0], p[1]];

/** Stretches as the edge of a body, each a face of its own name; what is straight is flat. */
export const edgeOf = (all: readonly Stretch[], name: (n: number) => string): EdgeRun[] =>
	all.map(({ n, spots, ways, begins, ends }) => ({
		face: name(n),
		spots: spots.map(spot),
		...((begins || ends) && { normals: ways.map(([x, y]): Spot => [y, -x]) }),
	}));

/** The corners of stretches, each once. */
export const ringOf = (all: readonly Stretch[]): Spot[] => all.flatMap((s) => s.spots.slice(0, -1).map(spot));

/** Where a point of a plan lies, right and away. */
export const inPlan = ([right, away]: readonly number[]): Vec3 => [right, 0, -away];
export const fromPlan = ([x, , z]: Vec3): number[] => [x, -z];

/** A line of the plan whose body takes up what `box` tells of it, and is as high as it is told. */
export function planDrawn<S extends Shape>(
	box: (shape: S) => Box,
): Pick<Drawn<S>, "closed" | "least" | "place" | "at" | "fit" | "own"> {
	return {
		closed: () => true,
		least: 3,
		place: inPlan,
		at: fromPlan,
		fit: (shape, [w, h, d]) => {
			const { low, high } = box(shape);
			const by: Vec3 = [w / (high[0] - low[0]), 1, d / (high[2] - low[2])];
			return { by, low: [low[0] * by[0], 0, low[2] * by[2]], high: [high[0] * by[0], h, high[2] * by[2]] };
		},
		own: (shape, heightM) => {
			const { low, high } = box(shape);
			return [high[0] - low[0], heightM, high[2] - low[2]];
		},
	};
}
