/** The land after all that has happened to it, oldest first. */
import { LandEntry as Entry, type LandEntry, type LandWhere } from "../../doc/schema.ts";
import type { LandMaker } from "./entry.ts";
import * as makers from "./makers.ts";
import { type Weight, whereOf } from "./where.ts";

export const ENTRIES: { [K in LandEntry["kind"]]: LandMaker<Extract<LandEntry, { kind: K }>> } = makers;

export const entryOf = (entry: Pick<LandEntry, "kind">): LandMaker => ENTRIES[entry.kind] as LandMaker;

/** An entry as it is taken in, before the land about a place (right and towards, metres). */
export const newEntry = (kind: LandEntry["kind"], id: string, x: number, z: number): LandEntry =>
	Entry.parse({ id, out: false, where: [], ...entryOf({ kind }).usual(x, z) });

/** How far an entry holds at a place, 0 to 1: all of its sentences together. */
export function weightOf(wheres: readonly LandWhere[]): Weight | null {
	if (wheres.length === 0) return null;
	const all = wheres.map((where) => {
		const weight = whereOf(where).weight(where);
		return where.not ? (before: number, x: number, z: number) => 1 - weight(before, x, z) : weight;
	});
	return (before, x, z) => all.reduce((w, weight) => (w > 0 ? w * weight(before, x, z) : 0), 1);
}

/** Height after one entry, of the height before it. */
function stepOf(entry: LandEntry): Weight {
	const made = entryOf(entry).made(entry);
	const weight = weightOf(entry.where);
	if (!weight) return made;
	return (before, x, z) => {
		const w = weight(before, x, z);
		return w > 0 ? before + (made(before, x, z) - before) * w : before;
	};
}

const known = new WeakMap<readonly LandEntry[], Weight>();

/** What all entries of a ledger that are not struck out make of a height, metres. Entries are never changed in place. */
export function ledgerOf(entries: readonly LandEntry[]): Weight {
	let all = known.get(entries);
	if (!all) {
		const steps = entries.filter((e) => !e.out).map(stepOf);
		all = (before, x, z) => {
			let height = before;
			for (const step of steps) height = step(height, x, z);
			return height;
		};
		known.set(entries, all);
	}
	return all;
}
