/** The land after all that has happened to it, oldest first. */
import { LandEntry as Entry, type LandEntry, type LandWhere } from "../../doc/schema.ts";
import { smoothstep } from "../../maths/functions.ts";
import { fractal2 } from "../../maths/noise.ts";
import type { LandMaker } from "./entry.ts";
import * as makers from "./makers.ts";

export const ENTRIES: { [K in LandEntry["kind"]]: LandMaker<Extract<LandEntry, { kind: K }>> } = makers;

export const entryOf = (entry: Pick<LandEntry, "kind">): LandMaker => ENTRIES[entry.kind] as LandMaker;

/** An entry as it is taken in, before the land about a place (right and towards, metres). */
export const newEntry = (kind: LandEntry["kind"], id: string, x: number, z: number): LandEntry =>
	Entry.parse({ id, out: false, where: [], ...entryOf({ kind }).usual(x, z) });

type Weight = (before: number, x: number, z: number) => number;

/** A least way on which a height or a distance goes over, so that the land has no cracks, metres. */
const LEAST_FEATHER_M = 0.05;

const WHERES: { [K in LandWhere["kind"]]: (where: Extract<LandWhere, { kind: K }>) => Weight } = {
	"between heights": ({ fromM, toM, featherM }) => {
		const f = Math.max(LEAST_FEATHER_M, featherM);
		return (before) => smoothstep(fromM - f, fromM, before) * (1 - smoothstep(toM, toM + f, before));
	},
	"near a place": ({ x: ox, z: oz, radiusM, featherM }) => {
		const f = Math.max(LEAST_FEATHER_M, featherM);
		return (_, x, z) => 1 - smoothstep(radiusM, radiusM + f, Math.sqrt((x - ox) * (x - ox) + (z - oz) * (z - oz)));
	},
	"in patches": ({ sizeM, share, seed }) => {
		const edge = 1 - share;
		return (_, x, z) => smoothstep(edge - 0.12, edge + 0.12, 0.5 + 1.1 * fractal2(x / sizeM, z / sizeM, seed + 400, 3));
	},
};

/** How far an entry holds at a place, 0 to 1: all of its sentences together. */
export function weightOf(wheres: readonly LandWhere[]): Weight | null {
	if (wheres.length === 0) return null;
	const all = wheres.map((where) => {
		const weight = (WHERES[where.kind] as (w: LandWhere) => Weight)(where);
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

/** The sentence of a where. */
export function whereSentence(where: LandWhere): string {
	const not = where.not ? "not " : "";
	if (where.kind === "between heights") return `${not}between ${where.fromM.toFixed(0)} and ${where.toM.toFixed(0)} m`;
	if (where.kind === "near a place") return `${not}within ${where.radiusM.toFixed(0)} m of a place`;
	return `${not}in patches of ${where.sizeM.toFixed(0)} m, on ${Math.round(where.share * 100)} % of the land`;
}
