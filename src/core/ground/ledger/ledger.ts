/** The land after all that has happened to it, oldest first. */
import { LandEntry as Entry, type LandEntry, type LandWhere } from "../../doc/schema.ts";
import { smoothstep } from "../../maths/functions.ts";
import { keyOf } from "../../maths/hash.ts";
import {
	changeAt,
	heldField,
	type LandField,
	type LandSquareCells,
	landHeld,
	newestField,
	type Wear,
} from "../field.ts";
import type { LandRead } from "../pictures.ts";
import type { WaterBody } from "../water/body.ts";
import type { Before, Coloured, Land, LandBefore, LandMaker, Push, Step, Worn } from "./entry.ts";
import { type Grain, smallest } from "./grain.ts";
import * as makers from "./makers.ts";
import { type WhereStory, whereOf } from "./where.ts";

export const ENTRIES: { [K in LandEntry["kind"]]: LandMaker<Extract<LandEntry, { kind: K }>> } = makers;

export const entryOf = (entry: Pick<LandEntry, "kind">): LandMaker => ENTRIES[entry.kind] as LandMaker;

/** An entry as it is taken in, before the land about a place (right and towards, metres) that is looked at along a heading. */
export const newEntry = (kind: LandEntry["kind"], id: string, x: number, z: number, headingDeg = 0): LandEntry =>
	Entry.parse({ id, out: false, where: [], ...entryOf({ kind }).usual(x, z, headingDeg) });

/** How far an entry holds at a place, 0 to 1: all of its sentences together. */
export function weightOf(wheres: readonly LandWhere[], story: WhereStory): Step | null {
	if (wheres.length === 0) return null;
	const all = wheres.map((where) => {
		const weight = whereOf(where).weight(where, story);
		return where.not ? (before: number, x: number, z: number) => 1 - weight(before, x, z) : weight;
	});
	if (all.length === 1) return all[0];
	return (before, x, z) => {
		let w = 1;
		for (let i = 0; i < all.length && w > 0; i++) w *= all[i](before, x, z);
		return w;
	};
}

/** A square that has to be made before heights are asked for. */
export interface LandNeed extends LandSquareCells {
	key: string;
	/** The entry that it is made for. */
	id: string;
	wear: Wear;
	/** Height before it. */
	before: Land;
}

/** Raised when what wears land does it otherwise, so that no old field is taken for a new one. */
const FIELDS = 1;

type Surface = (x: number, z: number) => number;

/** All that has happened to some land, by what it lay on. */
interface Story {
	of: LandBefore;
	all: Step;
	needs: LandNeed[];
	/** Before and after each entry that wears. */
	wears: { before: Step; after: Step }[];
	/** How far the land at a place is the surface of an entry, 0 to 1; null where no entry has one. */
	surface: Surface | null;
	/** Colours that entries give the land, oldest first. */
	colours: readonly Coloured[];
	/** Waters that entries let into the land, by their ids; told when they are asked for. */
	waters: () => ReadonlyMap<string, WaterBody>;
	/** What stands aside, oldest first; told when it is asked for. */
	pushes: () => readonly Push[];
	/** What of entries' files has to be held. */
	reads: readonly LandRead[];
	/** How much was held when it was told. */
	held: number;
}

/** What lay at a place at first. */
export type PresetOf = (of: LandBefore) => Step;

/** Height after what has worn, within its place: made squares are looked for until theirs is there, an older one stands in. */
function wornStep({ x: ox, z: oz, radiusM, featherM }: Worn, key: string, id: string): Step {
	let own: LandField | undefined;
	return (before, x, z) => {
		const far = (x - ox) * (x - ox) + (z - oz) * (z - oz);
		if (far >= (radiusM + featherM) ** 2) return before;
		own ??= heldField(key);
		const field = own ?? newestField(id);
		if (!field) return before;
		return before + changeAt(field, x, z) * (1 - smoothstep(radiusM, radiusM + featherM, Math.sqrt(far)));
	};
}

/** What of an entry the heights after it follow from. */
function shapesOf(entry: LandEntry): object {
	const maker = entryOf(entry);
	const own = "shapes" in maker ? maker.shapes?.(entry) : undefined;
	const { id: _, ...told } = entry;
	return own ?? told;
}

function storyOf(of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): Story {
	const preset = presetOf(of);
	const needs: LandNeed[] = [];
	const wears: Story["wears"] = [];
	const surfaces: Surface[] = [];
	const colours: Coloured[] = [];
	const reads: LandRead[] = [];
	const pushes: ((land: Land) => Push)[] = [];
	const waters: { id: string; made: (land: Land) => WaterBody }[] = [];
	let all: Step = (before) => before;
	const known: LandEntry[] = [];
	for (const entry of entries) {
		if (entry.out) continue;
		const before = known.slice();
		known.push(entry);
		const maker = entryOf(entry);
		const soFar = all;
		const land: Land = (x, z) => soFar(preset(0, x, z), x, z);
		const weight = weightOf(entry.where, { land, farFromPaths: () => farFromPathsOf(before) });
		reads.push(...(maker.reads?.(entry) ?? []));
		let made: Step;
		if ("worn" in maker) {
			const worn = maker.worn(entry);
			const key = keyOf("field", FIELDS, of.preset, of.seed, of.heightM, known.map(shapesOf), of.planetKm);
			const half = worn.radiusM + worn.featherM;
			const { x, z, cells, wear } = worn;
			needs.push({
				key,
				id: entry.id,
				x0: x - half,
				z0: z - half,
				stepM: (2 * half) / cells,
				cells,
				wear,
				before: land,
			});
			made = wornStep(worn, key, entry.id);
		} else {
			const found: Before = { ...of, onPaths: highest(surfaces.slice()) };
			made = maker.made(entry, land, found);
			const { water, pushes: push } = maker;
			if (push) pushes.push((after) => push(entry, after, weight && ((x, z) => weight(land(x, z), x, z))));
			if (water) waters.push({ id: entry.id, made: (after) => water(entry, after, weight, land) });
			const surface = maker.surface?.(entry, land);
			if (surface) surfaces.push(weight ? (x, z) => surface(x, z) * weight(land(x, z), x, z) : surface);
			const colour = maker.colour?.(entry, land, found);
			if (colour) colours.push(weight ? weighed(colour, (x, z) => weight(land(x, z), x, z)) : colour);
		}
		all = weight
			? (start, x, z) => {
					const before = soFar(start, x, z);
					const w = weight(before, x, z);
					return w > 0 ? before + (made(before, x, z) - before) * w : before;
				}
			: (start, x, z) => made(soFar(start, x, z), x, z);
		if ("worn" in maker) wears.push({ before: soFar, after: all });
	}
	let made: ReadonlyMap<string, WaterBody> | null = null;
	let pushed: readonly Push[] | null = null;
	const after: Land = (x, z) => all(preset(0, x, z), x, z);
	return {
		of,
		all,
		needs,
		wears,
		surface: highest(surfaces),
		colours,
		waters: () => {
			made ??= new Map(waters.map((own) => [own.id, own.made(after)]));
			return made;
		},
		pushes: () => {
			pushed ??= pushes.map((push) => push(after));
			return pushed;
		},
		reads,
		held: landHeld(),
	};
}

/** The most of several; null of none. */
const highest = (surfaces: readonly Surface[]): Surface | null =>
	surfaces.length === 0
		? null
		: (x, z) => {
				let most = 0;
				for (const own of surfaces) most = Math.max(most, own(x, z));
				return most;
			};

const weighed =
	(colour: Coloured, weight: Surface): Coloured =>
	(x, y, z, steep) => {
		const own = colour(x, y, z, steep);
		return own && { ...own, share: own.share * weight(x, z) };
	};

/** Stories of a ledger; entries are never changed in place. */
const stories = new WeakMap<readonly LandEntry[], Story[]>();
const MOST_STORIES = 4;
const SAME = ["preset", "seed", "heightM", "planetKm"] as const;

function story(of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): Story {
	const known = stories.get(entries) ?? [];
	const same = known.find((s) => SAME.every((k) => s.of[k] === of[k]));
	// What an entry keeps of worn land is told anew when that has been made.
	if (same && (same.needs.length + same.reads.length === 0 || same.held === landHeld())) return same;
	const { preset, seed, heightM, planetKm } = of;
	const made = storyOf({ preset, seed, heightM, planetKm }, entries, presetOf);
	stories.set(entries, [made, ...known.filter((s) => s !== same).slice(0, MOST_STORIES - 1)]);
	return made;
}

/** What all entries of a ledger that are not struck out make of a height, metres. `presetOf` tells what lay there at first. */
export const ledgerOf = (of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): Step =>
	story(of, entries, presetOf).all;

/** How much entries that wear have taken from a place, and laid there, metres. */
export function wornOfLedger(of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf) {
	const { wears } = story(of, entries, presetOf);
	const preset = presetOf(of);
	return (x: number, z: number): { takenM: number; laidM: number } => {
		const start = preset(0, x, z);
		const worn = { takenM: 0, laidM: 0 };
		for (const { before, after } of wears) {
			const by = after(start, x, z) - before(start, x, z);
			if (by < 0) worn.takenM -= by;
			else worn.laidM += by;
		}
		return worn;
	};
}

/** How far the land at a place is the surface of an entry, a path's, 0 to 1; null where no entry has one. */
export function surfaceOfLedger(of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): Surface | null {
	return story(of, entries, presetOf).surface;
}

/** Colours that entries give the dry land, oldest first. */
export const coloursOfLedger = (of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf) =>
	story(of, entries, presetOf).colours;

/** Waters that entries let into the land, by the entries' ids. */
export const watersOfLedger = (of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf) =>
	story(of, entries, presetOf).waters();

/** What of the land stands aside from where its height was told; null where nothing does. Heights count from the ground's own level. */
export function pushOfLedger(of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): Push | null {
	const pushes = story(of, entries, presetOf).pushes();
	if (pushes.length < 2) return pushes[0] ?? null;
	return {
		least: pushes.reduce((least, push) => Math.min(least, push.least), Number.POSITIVE_INFINITY),
		at: (x, y, z) => {
			const sum = { x: 0, z: 0 };
			for (const push of pushes) {
				const own = push.at(x, y, z);
				sum.x += own?.x ?? 0;
				sum.z += own?.z ?? 0;
			}
			return sum;
		},
		grain: (x, z) => pushes.reduce((least, push) => Math.min(least, push.grain(x, z)), Number.POSITIVE_INFINITY),
	};
}

/** What of entries' files has to be held before heights are asked for. */
export const readsOfLedger = (of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): readonly LandRead[] =>
	story(of, entries, presetOf).reads;

/** Where entries make what is so small that a mesh has to be told of it; null where none does. */
export const grainOfLedger = (entries: readonly LandEntry[]): Grain | null =>
	smallest(
		entries.flatMap((entry) => {
			const maker = entryOf(entry);
			return !entry.out && "grain" in maker && maker.grain ? [maker.grain(entry)] : [];
		}),
	);

/** Metres from a place to the nearest path; null where there is none. */
export function farFromPathsOf(entries: readonly LandEntry[]): Surface | null {
	const known = fars.get(entries);
	if (known !== undefined) return known;
	const all = entries.flatMap((entry) => {
		const maker = entryOf(entry);
		return !entry.out && "far" in maker && maker.far ? [maker.far(entry)] : [];
	});
	const far: Surface | null = all.length
		? (x, z) => all.reduce((least, own) => Math.min(least, own(x, z)), Infinity)
		: null;
	fars.set(entries, far);
	return far;
}

const fars = new WeakMap<readonly LandEntry[], Surface | null>();

/** What an entry comes to over the land before it, in words; nothing where it has none. */
export function toldOf(of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf, id: string): string {
	const at = entries.findIndex((e) => e.id === id);
	const maker = at < 0 ? null : entryOf(entries[at]);
	if (!maker || entries[at].out) return "";
	if ("water" in maker && maker.water) return watersOfLedger(of, entries, presetOf).get(id)?.told ?? "";
	if (!("tells" in maker) || !maker.tells) return "";
	const preset = presetOf(of);
	const { all } = story(of, entries.slice(0, at), presetOf);
	return maker.tells(entries[at], (x, z) => all(preset(0, x, z), x, z), of);
}

/** Squares that a ledger needs, in the order in which they can be made. */
export const needsOfLedger = (of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): readonly LandNeed[] =>
	story(of, entries, presetOf).needs;

/** A ledger in so few cells that all of it is made while a hand waits; what is there in full stays. */
export function coarseLedger(of: LandBefore, entries: readonly LandEntry[], presetOf: PresetOf): readonly LandEntry[] {
	const missing = new Set(needsOfLedger(of, entries, presetOf).flatMap(({ key, id }) => (heldField(key) ? [] : [id])));
	const waits = (entry: LandEntry) => ("worn" in entryOf(entry) ? missing.has(entry.id) : !!entryOf(entry).coarse);
	if (!entries.some(waits)) return entries;
	return entries.map((entry) => (waits(entry) ? (entryOf(entry).coarse?.(entry) ?? entry) : entry));
}
