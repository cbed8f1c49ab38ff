/** Repeats: a piece that stands there many times. */
import { z } from "zod";
import { repeatLine } from "./curve.ts";
import { metres, number } from "./numbers.ts";

/** Copies of one piece at most. */
export const MOST_COPIES = 2000;

const many = z.int().min(1).max(MOST_COPIES);

/** How the copies differ from the first by chance. */
export const Vary = z.object({
	seed: z.int().min(0).max(9999),
	/** Each is turned by up to so much to either side. */
	turnDeg: number(0, 180),
	/** Each is larger or smaller by up to this part. */
	size: number(0, 0.9),
	/** This part of them is left out. */
	drop: number(0, 0.95),
	/** Their shapes have so many seeds, where they have one. */
	seeds: z.int().min(1).max(12).optional(),
});

/** A copy that is unlike the others. */
export const Single = z.object({
	copy: z
		.int()
		.min(0)
		.max(MOST_COPIES - 1),
	/** It is left out. */
	out: z.boolean().optional(),
	/** It stands beside its place: right, up, away in the piece's own directions. */
	by: z.tuple([metres, metres, metres]).optional(),
});

export type Single = z.infer<typeof Single>;
export type Vary = z.infer<typeof Vary>;

const common = { vary: Vary.optional(), singles: z.array(Single).max(MOST_COPIES).optional() };

/** From one to the next: right and away in the piece's own directions. */
const step = z.tuple([metres, metres]);

export const Repeat = z.discriminatedUnion("kind", [
	z.object({ kind: z.literal("row"), count: many, step, ...common }),
	z
		.object({ kind: z.literal("field"), columns: many, rows: many, step, ...common })
		.refine((f) => f.columns * f.rows <= MOST_COPIES, `A field holds at most ${MOST_COPIES} copies.`),
	z.object({
		kind: z.literal("ring"),
		count: many,
		/** Its middle, beside the piece's foot. */
		centre: step,
		/** From the first to the last; a whole turn ends where it begins. */
		arcDeg: number(1, 360),
		/** Each is turned as far as it has gone round. */
		turned: z.boolean(),
		...common,
	}),
	z.object({
		kind: z.literal("along"),
		count: many,
		/** A line that begins at the piece's foot: right and away in its own directions. */
		points: repeatLine(),
		/** Each is turned as the line has turned. */
		turned: z.boolean(),
		...common,
	}),
	/** One more, so far to the right, as a mirror between them shows it. */
	z.object({ kind: z.literal("facing"), acrossM: metres, ...common }),
]);
export type Repeat = z.infer<typeof Repeat>;
export type RepeatKind = Repeat["kind"];

/** In the order in which they are offered. */
export const REPEAT_KINDS = Repeat.options.map((o) => o.shape.kind.value);
