/** The move: its length, and what is keyed over it. */
import { z } from "zod";
import { trackOf } from "../keyedValues.ts";
import * as S from "../schema.ts";
import { type Doc, define, EditError, find } from "./define.ts";

/** A move before anything is said of it: four seconds. */
export const usualMove = (): S.Move => ({ rate: "24", frames: 96, shutter: 0.5, tracks: [] });

const KeyedName = z.enum(S.KEYED_NAMES as [S.KeyedName, ...S.KeyedName[]]);
const Which = z.object({ value: KeyedName, of: S.Id.optional() });
/** A key of a value as an edit brings it; the schema of the value is looked up by its name. */
export const NewKey = Which.extend({
	timeS: S.KeyTime,
	is: z.unknown(),
	/** As the key that is there, or as the one before it, when it is not said. */
	leave: S.Leave.optional(),
}).superRefine((key, ctx) => {
	const checked = S.keyed(key.value).schema.safeParse(key.is);
	if (!checked.success) ctx.addIssue({ code: "custom", path: ["is"], message: checked.error.issues[0].message });
});
export type NewKey = z.infer<typeof NewKey>;

const many = z.array(NewKey).min(1).max(2000);

/** Two times that are the same key's. */
const same = (a: number, b: number): boolean => Math.abs(a - b) < S.LEAST_APART_S;

const moveOf = (doc: Doc): NonNullable<Doc["move"]> => {
	if (!doc.move) throw new EditError("no-move", "This shot has no move yet.");
	return doc.move;
};

function checkLength(track: Pick<S.Track, "keys">): void {
	if (track.keys.length > S.MOST_KEYS)
		throw new EditError("full", `A value has at most ${S.MOST_KEYS.toLocaleString("en")} keys. Keep every other one.`);
}

/** Puts keys into their tracks, in the place of those that stand at the same time. */
export function putKeys(doc: Doc, keys: readonly NewKey[]): void {
	doc.move ??= usualMove() as Doc["move"];
	const move = moveOf(doc);
	for (const { value, of, timeS, is, leave } of keys) {
		const known = trackOf(move as S.Move, value, of);
		const track: S.Track = known ?? { value, ...(of !== undefined && { of }), keys: [] };
		if (!known) (move.tracks as S.Track[]).push(track);
		const there = track.keys.find((k) => same(k.timeS, timeS));
		const before = track.keys.findLast((k) => k.timeS < timeS);
		track.keys = [
			...track.keys.filter((k) => k !== there),
			{ timeS, value: is, leave: leave ?? there?.leave ?? before?.leave ?? "ease" },
		].sort((a, b) => a.timeS - b.timeS);
		checkLength(track);
	}
}

/** Tracks that an act is about: those that are named, or all. */
const chosen = (doc: Doc, which: z.infer<typeof Which>[] | null): S.Track[] => {
	const tracks = moveOf(doc).tracks as S.Track[];
	return which ? tracks.filter((t) => which.some((w) => w.value === t.value && w.of === t.of)) : tracks;
};
const Chosen = z.array(Which).min(1).max(2000).nullable();

const dropEmpty = (doc: Doc): void => {
	const move = moveOf(doc);
	move.tracks = move.tracks.filter((t) => t.keys.length > 0);
};

/** Forgets what a move says of things that are gone. */
export function dropTracks({ move }: Doc, gone: ReadonlySet<string>): void {
	if (!move) return;
	if (move.tracks.some((t) => t.of !== undefined && gone.has(t.of)))
		move.tracks = move.tracks.filter((t) => t.of === undefined || !gone.has(t.of));
	if (move.keepsSizeOf && gone.has(move.keepsSizeOf)) move.keepsSizeOf = null;
}

export const moveEdits = {
	"move.set": define(
		"move",
		S.Move.pick({ rate: true, frames: true, shutter: true, range: true, tremor: true, keepsSizeOf: true }).partial(),
		(d, e) => {
			if (e.keepsSizeOf) find(d.pieces, e.keepsSizeOf, "piece");
			d.move = { ...(d.move ?? (usualMove() as NonNullable<Doc["move"]>)), ...e };
		},
	),
	"move.remove": define("take the move away", z.object({ all: z.literal(true) }), (d) => {
		moveOf(d);
		d.move = null;
	}),
	"move.key": define("key", z.object({ keys: many }), (d, e) => putKeys(d, e.keys)),
	"move.leave": define("way from a key", z.object({ tracks: Chosen, timeS: S.KeyTime, leave: S.Leave }), (d, e) => {
		const keys = chosen(d, e.tracks).flatMap((t) => t.keys.filter((k) => same(k.timeS, e.timeS)));
		if (keys.length === 0) throw new EditError("not-found", `There is no key at ${e.timeS} s.`);
		for (const key of keys) key.leave = e.leave;
	}),
	/** Keys from one time to another; what stands there gives way. */
	"move.retime": define("move a key", z.object({ tracks: Chosen, fromS: S.KeyTime, toS: S.KeyTime }), (d, e) => {
		let found = false;
		for (const track of chosen(d, e.tracks)) {
			const key = track.keys.find((k) => same(k.timeS, e.fromS));
			if (!key) continue;
			found = true;
			track.keys = [...track.keys.filter((k) => k !== key && !same(k.timeS, e.toS)), { ...key, timeS: e.toS }].sort(
				(a, b) => a.timeS - b.timeS,
			);
		}
		if (!found) throw new EditError("not-found", `There is no key at ${e.fromS} s.`);
	}),
	"move.copy": define("copy a key", z.object({ tracks: Chosen, fromS: S.KeyTime, toS: S.KeyTime }), (d, e) => {
		const keys = chosen(d, e.tracks).flatMap(({ value, of, keys }) =>
			keys.filter((k) => same(k.timeS, e.fromS)).map((k) => ({ value, of, timeS: e.toS, is: k.value, leave: k.leave })),
		);
		if (keys.length === 0) throw new EditError("not-found", `There is no key at ${e.fromS} s.`);
		putKeys(d, keys);
	}),
	/** All keys by a factor, so that the move takes longer or shorter. */
	"move.stretch": define("stretch the move", z.object({ frames: S.Move.shape.frames }), (d, e) => {
		const move = moveOf(d);
		const factor = (e.frames - 1) / (move.frames - 1);
		move.frames = e.frames;
		for (const track of move.tracks as S.Track[])
			for (const key of track.keys) key.timeS = Math.min(3600, key.timeS * factor);
	}),
	"move.unkey": define("delete a key", z.object({ tracks: Chosen, timeS: S.KeyTime.nullable() }), (d, e) => {
		const tracks = chosen(d, e.tracks);
		const before = tracks.reduce((n, t) => n + t.keys.length, 0);
		for (const track of tracks)
			track.keys = e.timeS === null ? [] : track.keys.filter((k) => !same(k.timeS, e.timeS as number));
		if (tracks.reduce((n, t) => n + t.keys.length, 0) === before)
			throw new EditError("not-found", e.timeS === null ? "Nothing is keyed." : `There is no key at ${e.timeS} s.`);
		dropEmpty(d);
	}),
};
