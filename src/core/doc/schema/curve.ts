/** Drawn lines: their points, soft or hard. */
import { z } from "zod";
import { crossesItself, placesAlong } from "../../maths/curve.ts";
import { metres } from "./numbers.ts";

/** Points of one line at most. */
export const MOST_POINTS = 400;

/** A point keeps its number through all later acts: faces are named by it. */
const common = {
	n: z.int().min(0).max(9999),
	/** The line goes through it in a bow; a corner without. */
	soft: z.boolean().optional(),
};

/** Right and away, or out and up, in metres. */
export const FlatPoint = z.object({ ...common, at: z.tuple([metres, metres]) });
/** Right, away and up, in metres. */
export const SpacePoint = z.object({ ...common, at: z.tuple([metres, metres, metres]) });

export type FlatPoint = z.infer<typeof FlatPoint>;
export type SpacePoint = z.infer<typeof SpacePoint>;
export type LinePoint = FlatPoint | SpacePoint;

const numbered = (points: readonly { n: number }[]) => new Set(points.map((p) => p.n)).size === points.length;
const NUMBERED = "Two points have the same number.";

const apart = (points: readonly { at: readonly number[] }[]) =>
	points.every((p, i) => i === 0 || p.at.some((v, c) => Math.abs(v - points[i - 1].at[c]) >= LEAST_APART_M));
/** Points of a line are at least so far apart, metres. */
export const LEAST_APART_M = 1e-3;
const APART = "Two points of a line lie on one place.";

const lineOf = <P extends z.ZodType<LinePoint>>(point: P, least: number, few: string) =>
	z.array(point).min(least, few).max(MOST_POINTS).refine(numbered, NUMBERED).refine(apart, APART);

const CROSSES = "The line crosses itself: move its points apart.";

/** A line that ends where it begins, and does not cross itself. */
export const drawnOutline = () =>
	lineOf(FlatPoint, 3, "An outline needs three points.").refine((points) => !crossesItself(points, true), CROSSES);
/** A line from its first point to its last. */
export const drawnLine = () =>
	lineOf(FlatPoint, 2, "A line needs two points.").refine((points) => !crossesItself(points, false), CROSSES);
/** A line that begins where the thing stands that goes along it. */
export const repeatLine = () =>
	lineOf(FlatPoint, 2, "A line needs two points.").refine(
		([first]) => first.at[0] === 0 && first.at[1] === 0,
		"The line of a repeat begins at its piece.",
	);
export const spaceLine = () => lineOf(SpacePoint, 2, "A line needs two points.");

/** How near to its axis a turned line may come between its ends, metres. */
const LEAST_OUT_M = 1e-4;

/** A line at one side of an upright axis, which only its ends may lie on. */
export const turnedLine = () =>
	drawnLine()
		.refine(
			(points) =>
				points[0].at[0] >= 0 &&
				points[points.length - 1].at[0] >= 0 &&
				placesAlong(points, false)
					.slice(1, -1)
					.every(([out]) => out > LEAST_OUT_M),
			"Only the ends of a turned line may lie on its axis, and none of it beyond.",
		)
		.refine(
			(points) => points.some((p) => p.at[1] !== points[0].at[1]) && points.some((p) => p.at[0] > LEAST_OUT_M),
			"A turned line has to go up, and out from its axis.",
		);

/** Points as they are drawn: corners at these places, numbered in their order. */
export const corners = <A extends readonly number[]>(...places: A[]): { n: number; at: A }[] =>
	places.map((at, n) => ({ n, at }));
