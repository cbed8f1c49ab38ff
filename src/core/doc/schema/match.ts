/** What is drawn over a reference to match its perspective. */
import { z } from "zod";
import { degrees, Id, number } from "./numbers.ts";

export const MatchAxis = z.enum(["along", "across", "upright"]);

const pixel = number(-1e6, 1e6);
/** A segment over the reference, in its pixels from the top-left corner. */

export const MatchLine = z
	.object({
		id: Id,
		axis: MatchAxis,
		x1: pixel,
		y1: pixel,
		x2: pixel,
		y2: pixel,
		/** Left out of the match. */ out: z.boolean().optional(),
	})
	.refine((l) => Math.hypot(l.x2 - l.x1, l.y2 - l.y1) >= 1, "A line needs a length of at least one pixel.");

/** Something of known size over the reference: upright from its foot (1) to its top (2), or level between two places. */
export const MatchMeasure = z.object({
	id: Id,
	kind: z.enum(["height", "length"]),
	x1: pixel,
	y1: pixel,
	x2: pixel,
	y2: pixel,
	metres: number(0.01, 10_000),
});

/** A circle of the place, seen as an ellipse: half axes, and the angle of the first from right towards down. */
export const MatchCircle = z.object({
	id: Id,
	x: pixel,
	y: pixel,
	a: number(2, 1e6),
	b: number(2, 1e6),
	angleDeg: degrees,
	plane: z.enum(["ground", "along", "across"]),
});

/** Places along an edge that is straight in the place and bent in the picture. */
export const MatchCurve = z.object({
	id: Id,
	points: z
		.array(z.tuple([pixel, pixel]))
		.min(3)
		.max(12),
});

export const Match = z.object({
	/** Reference that it is drawn over; nothing takes the one that is shown. */
	reference: Id.optional(),
	lines: z.array(MatchLine).max(200),
	focalGivenMm: number(4, 1200).nullable(),
	eyeHeightM: number(0.01, 10_000),
	measures: z.array(MatchMeasure).max(40).optional(),
	circles: z.array(MatchCircle).max(20).optional(),
	curves: z.array(MatchCurve).max(40).optional(),
	/** The horizon as it was dragged: pixels from the top at the left and right edge. */
	horizon: z.object({ yLeft: pixel, yRight: pixel }).nullable().optional(),
	/** Whether the lens's axis meets the picture's middle, or that is solved too. */
	centre: z.enum(["middle", "solved"]).optional(),
	/** Whether a line that does not belong with the rest counts all the same. */
	allCount: z.boolean().optional(),
});

export type MatchAxis = z.infer<typeof MatchAxis>;
export type MatchLine = z.infer<typeof MatchLine>;
export type MatchMeasure = z.infer<typeof MatchMeasure>;
export type MatchCurve = z.infer<typeof MatchCurve>;
export type MatchCircle = z.infer<typeof MatchCircle>;
export type Match = z.infer<typeof Match>;
