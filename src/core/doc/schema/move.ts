/** The move of a shot: its length and rate, and what is keyed over it. */
import { z } from "zod";
import { KEYED_NAMES, type KeyedName, keyed } from "./keyed.ts";
import { Id, number } from "./numbers.ts";

/** Frames a second as exact fractions. */
export const RATES = {
	"23.976": [24_000, 1001],
	"24": [24, 1],
	"25": [25, 1],
	"29.97": [30_000, 1001],
	"30": [30, 1],
} as const;
export const Rate = z.enum(Object.keys(RATES) as [keyof typeof RATES, ...(keyof typeof RATES)[]]);
export type Rate = z.infer<typeof Rate>;

/** How a value leaves a key: at an even rate, slowly and into the next one slowly, or not before the next one. */
export const Leave = z.enum(["even", "ease", "hold"]);
export type Leave = z.infer<typeof Leave>;

export const MOST_FRAMES = 20_000;
export const MOST_KEYS = 1000;
/** Seconds by which two keys of a value lie apart at least. */
export const LEAST_APART_S = 1e-4;

export const KeyTime = number(0, 3600);

export interface Key {
	timeS: number;
	value: unknown;
	leave: Leave;
}

export interface Track {
	value: KeyedName;
	/** Which piece or lamp; none of what a shot has one of. */
	of?: string;
	/** By rising time. */
	keys: Key[];
}

/** A track of one of the lines of the table of what can be keyed. */
const trackOf = (name: KeyedName) =>
	z.object({
		value: z.literal(name),
		of: Id.optional(),
		keys: z
			.array(z.object({ timeS: KeyTime, value: keyed(name).schema, leave: Leave }))
			.min(1)
			.max(MOST_KEYS)
			.refine(
				(keys) => keys.every((k, i) => i === 0 || k.timeS - keys[i - 1].timeS >= LEAST_APART_S),
				"Two keys of a value stand at one time, or in the wrong order.",
			),
	});

const [first, ...others] = KEYED_NAMES.map(trackOf);
export const Track = z.discriminatedUnion("value", [first, ...others]) as unknown as z.ZodType<Track>;

export const Tremor = z.object({
	/** Root of the mean square of the turn, degrees. */
	amountDeg: number(0, 5),
	/** 1 is a calm hand; times as fast. */
	speed: number(0.1, 5),
	seed: z.int().min(0).max(99999),
});
export type Tremor = z.infer<typeof Tremor>;

/** Whole frames from and to, both among them. */
export const FrameRange = z
	.object({ from: z.int().min(0).max(MOST_FRAMES), to: z.int().min(0).max(MOST_FRAMES) })
	.refine((r) => r.from <= r.to, "The range ends before it begins.");
export type FrameRange = z.infer<typeof FrameRange>;

export const Move = z.object({
	rate: Rate,
	frames: z
		.int()
		.min(2, "A move has two frames at least.")
		.max(MOST_FRAMES, `A move has at most ${MOST_FRAMES.toLocaleString("en")} frames.`),
	/** Share of a frame's time for which the shutter is open. */
	shutter: number(0, 1),
	/** Frames that are played and printed; all of them without. */
	range: FrameRange.nullable().optional(),
	tremor: Tremor.nullable().optional(),
	/** Piece whose size in the frame stays what it is at the beginning: the focal length goes against the distance. */
	keepsSizeOf: Id.nullable().optional(),
	tracks: z.array(Track).max(2000),
});
export type Move = z.infer<typeof Move>;
