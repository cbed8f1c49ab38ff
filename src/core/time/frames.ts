/** Frames of a move and their times. Rates are exact fractions, so that no frame drifts, however long the move. */
import { type FrameRange, type Move, RATES, type Rate } from "../doc/schema.ts";
import { hash32 } from "../maths/hash.ts";

/**
 * The moment that is seen: seconds from the move's beginning (null for the still, which is the document as it is), and how
 * long the shutter is open from then.
 */
export interface Moment {
	timeS: number | null;
	shutterS: number;
}

export const STILL: Moment = { timeS: null, shutterS: 0 };

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
export const momentOfFrame = (frame: number, move: Move): Moment => momentAt(timeOfFrame(frame, move.rate), move);

/** The moment at a time of a move, with its shutter open from then. */
export const momentAt = (timeS: number, move: Move): Moment => ({ timeS, shutterS: shutterSeconds(move) });

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

/** The even step of frames by their numbers: 1 where they lie unevenly. */
export function stepOf(frames: readonly number[]): number {
	const step = frames.length > 1 ? frames[1] - frames[0] : 1;
	return frames.every((f, i) => i === 0 || f - frames[i - 1] === step) ? step : 1;
}

const PART = /^(\d+)(?:-(\d+)(?::(\d+))?)?$/;

/**
 * Frames as a person writes them: "0-95", "0-95:4" for each fourth, "12", or several of these with commas between. By rising
 * number, each once. Throws a RangeError in words when they make no sense or go beyond a move of so many frames.
 */
export function parseFrames(text: string, frames: number): number[] {
	const out = new Set<number>();
	for (const part of text.split(",").map((p) => p.trim())) {
		const m = PART.exec(part);
		if (!m)
			throw new RangeError(`"${part.slice(0, 40)}" names no frames: they are FROM-TO, FROM-TO:STEP or one number.`);
		const [from, to, step] = [Number(m[1]), Number(m[2] ?? m[1]), Number(m[3] ?? 1)];
		if (to < from) throw new RangeError(`The range ${part} ends before it begins.`);
		if (step < 1) throw new RangeError(`The step of ${part} is 0: each frame is :1.`);
		if (to > frames - 1) throw new RangeError(`The move has frames 0 to ${frames - 1}; ${part} goes beyond them.`);
		for (let f = from; f <= to; f += step) out.add(f);
	}
	return [...out].sort((a, b) => a - b);
}
