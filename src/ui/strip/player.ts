/**
 * Plays the move in the frame at its true rate. Frames that cannot be made in time are left out, never slowed down. Each is
 * asked of the stage when the one before has come.
 */
import { framesPerSecond, momentOfFrame, rangeOf, timeOfFrame } from "../../core/time/frames.ts";
import { useShot } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

/** The frame that is to be seen after so many seconds, round and round in a range. */
export function frameAfter(
	seconds: number,
	rate: number,
	begin: number,
	{ from, to }: { from: number; to: number },
): number {
	const count = to - from + 1;
	const first = begin < from || begin > to ? from : begin;
	return from + ((first - from + Math.floor(seconds * rate + 1e-6)) % count);
}

let stop: (() => void) | null = null;

export function play(): void {
	const { whole, timeS, shotId } = useShot.getState();
	const { move } = whole;
	if (!move || stop) return;
	const { set } = useStudio.getState();
	const rate = framesPerSecond(move.rate);
	const range = rangeOf(move);
	const begin = timeS === null ? range.from : Math.round(timeS * rate);
	const started = performance.now();
	const shown: number[] = [];
	let last = -1;
	/** Number of the scene that the stage is making. */
	let awaited: number | null = null;
	let request = 0;
	set({ free: null, print: null, playedRate: null, playing: begin });
	const step = () => {
		request = requestAnimationFrame(step);
		const { stage, sceneNumber, playsSmall } = useStudio.getState();
		const now = performance.now();
		if (awaited !== null) {
			if (sceneNumber < awaited && !playsSmall) return;
			awaited = null;
			shown.push(now);
		}
		while (shown.length > 0 && now - shown[0] > 1000) shown.shift();
		const frame = frameAfter((now - started) / 1000, rate, begin, range);
		if (frame === last || !stage) return;
		last = frame;
		set({ playing: frame, playedRate: now - started > 1000 ? shown.length : null });
		if (playsSmall) shown.push(now);
		else awaited = stage.show(whole, false, momentOfFrame(frame, move));
	};
	request = requestAnimationFrame(step);
	stop = () => {
		cancelAnimationFrame(request);
		stop = null;
		unsubscribe();
		set({ playing: null });
		const now = useShot.getState();
		if (now.shotId === shotId) now.goTo(timeOfFrame(Math.max(0, last), move.rate));
	};
	// What is changed meanwhile is played from its beginning.
	const unsubscribe = useShot.subscribe((s, before) => {
		if (s.whole === before.whole && s.shotId === before.shotId) return;
		halt();
	});
}

export const halt = (): void => stop?.();
export const playOrHalt = (): void => (stop ? halt() : play());

/** Steps by frames, within the move. */
export function stepFrames(by: number): void {
	halt();
	const { whole, timeS, goTo } = useShot.getState();
	if (!whole.move || timeS === null) return;
	const now = Math.round(timeS * framesPerSecond(whole.move.rate));
	goTo(timeOfFrame(Math.min(whole.move.frames - 1, Math.max(0, now + by)), whole.move.rate));
}

/** Opens the time strip at a frame, or goes there. */
export function openAt(frame: number): void {
	halt();
	const { whole, goTo } = useShot.getState();
	if (whole.move) goTo(timeOfFrame(Math.min(whole.move.frames - 1, Math.max(0, frame)), whole.move.rate));
}
