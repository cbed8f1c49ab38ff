/** Frames of a move and their times. Rates are exact fractions, so that no frame drifts, however long the move. */
import { type FrameRange, type Move, RATES, type Rate } from "../doc/schema.ts";
import { hash32 } from "../maths/hash.ts";

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

/**
 * Frames in the order in which they tell most of the whole: the first, the last, the middle, the quarters and so forth, so
 * that a sequence can be judged long before it is done.
 */
export function tellingOrder(frames: readonly number[]): number[] {
	const n = frames.length;
	if (n === 0) return [];
	const out = [frames[0]];
	const seen = new Uint8Array(n);
	seen[0] = 1;
	const take = (i: number) => {
		if (seen[i]) return;
		seen[i] = 1;
		out.push(frames[i]);
	};
	take(n - 1);
	for (let parts = 2; out.length < n; parts *= 2)
		for (let k = 1; k < parts; k += 2) take(Math.round((k * (n - 1)) / parts));
	return out;
}

/** Seed of a frame's noise: another one for each, by its own number alone, unless all shall have the same. */
export const seedOfFrame = (seed: number, frame: number, steady: boolean): number =>
	steady ? seed : hash32(seed ^ hash32(frame + 1));
