/** Notches on the strip: the times at which something is keyed. */
import { keyedWords } from "../../core/doc/keyedValues.ts";
import { keyed, LEAST_APART_S, type Leave, type Move, type ShotDocument, type Track } from "../../core/doc/schema.ts";
import { frameAt } from "../../core/time/frames.ts";

export interface Notch {
	timeS: number;
	/** The frame that shows it first. */
	frame: number;
	/** What is keyed there. */
	tracks: Pick<Track, "value" | "of">[];
	/** Those that go on from here and are spoken of together: the camera's, or all where it is not among them. */
	going: Pick<Track, "value" | "of">[];
	/** How those leave it; null when they differ, or when none goes on. */
	leave: Leave | null;
}

export function notchesOf(move: Pick<Move, "tracks" | "rate">): Notch[] {
	const all = move.tracks
		.flatMap(({ value, of, keys }) =>
			keys.map((key, i) => ({ track: { value, of }, key, goesOn: i + 1 < keys.length })),
		)
		.sort((a, b) => a.key.timeS - b.key.timeS);
	const out: (Notch & { leaving: { track: Pick<Track, "value" | "of">; leave: Leave }[] })[] = [];
	for (const { track, key, goesOn } of all) {
		let notch = out[out.length - 1];
		if (!notch || key.timeS - notch.timeS >= LEAST_APART_S) {
			notch = {
				timeS: key.timeS,
				frame: frameAt(key.timeS, move.rate),
				tracks: [],
				going: [],
				leave: null,
				leaving: [],
			};
			out.push(notch);
		}
		notch.tracks.push(track);
		if (goesOn) notch.leaving.push({ track, leave: key.leave });
	}
	return out.map(({ leaving, ...notch }) => {
		const camera = leaving.filter((l) => keyed(l.track.value).holder === "camera");
		const some = camera.length > 0 ? camera : leaving;
		const leaves = new Set(some.map((l) => l.leave));
		return { ...notch, going: some.map((l) => l.track), leave: leaves.size === 1 ? [...leaves][0] : null };
	});
}

/** What is keyed at a notch, in words; of many pieces or lamps how many they are. */
export function keptWords(doc: ShotDocument, tracks: readonly Pick<Track, "value" | "of">[]): string {
	const words = new Map<string, string[]>();
	for (const { value, of } of tracks) {
		const own = words.get(value) ?? [];
		own.push(keyedWords(doc, value, of));
		words.set(value, own);
	}
	return [...words]
		.map(([value, own]) => {
			const { holder, label } = keyed(value as Track["value"]);
			return own.length > 2 ? `${label} of ${own.length} ${holder}s` : own.join(", ");
		})
		.join(", ");
}
