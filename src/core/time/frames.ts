/** Frames of a move and their times. Rates are exact fractions, so that no frame drifts, however long the move. */
import { type FrameRange, type Move, RATES, type Rate } from "../doc/schema.ts";

/** Seconds from the move's beginning at which a frame's shutter opens. */
export function timeOfFrame(frame: number, rate: Rate): number {
	const [many, seconds] = RATES[rate];
	return (frame * seconds) / many;
}

/** The frame that is shown at a time: the last that has begun. */
export function frameAt(timeS: number, rate: Rate): number {
	const [many, seconds] = RATES[rate];
	// A frame's own time must find that frame: it may lie a rounding before it.
	return Math.floor((timeS * many) / seconds + 1e-6);
}

export const framesPerSecond = (rate: Rate): number => RATES[rate][0] / RATES[rate][1];

/** Seconds for which the shutter is open. */
export const shutterSeconds = ({ rate, shutter }: Pick<Move, "rate" | "shutter">): number =>
	(shutter * RATES[rate][1]) / RATES[rate][0];

/** Length of a move in seconds. */
export const lengthS = ({ rate, frames }: Pick<Move, "rate" | "frames">): number => timeOfFrame(frames, rate);

/** What of a move is played and printed. */
export const rangeOf = ({ range, frames }: Pick<Move, "range" | "frames">): FrameRange => ({
	from: Math.min(range?.from ?? 0, frames - 1),
	to: Math.min(range?.to ?? frames - 1, frames - 1),
});

/** The moment that a frame of a move shows. */
export const momentOfFrame = (frame: number, move: Move): { timeS: number; shutterS: number } => ({
	timeS: timeOfFrame(frame, move.rate),
	shutterS: shutterSeconds(move),
});

/** Frames of a range, each `step`th of them. */
export const framesOf = ({ from, to }: FrameRange, step = 1): number[] =>
	Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => from + i * step);
