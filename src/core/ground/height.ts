/** Height of the ground at a place, metres, as a pure function of preset, seed, height and ledger. */
import type { Ground, Water } from "../doc/schema.ts";
import { cos, sin, TAU } from "../maths/functions.ts";
import type { Coloured, Push } from "./ledger/entry.ts";
import {
	coarseLedger,
	coloursOfLedger,
	farFromPathsOf,
	grainOfLedger,
	type LandNeed,
	ledgerOf,
	needsOfLedger,
	type PresetOf,
	pushOfLedger,
	readsOfLedger,
	surfaceOfLedger,
	toldOf,
	watersOfLedger,
	wornOfLedger,
} from "./ledger/ledger.ts";
import type { LandRead } from "./pictures.ts";
import { PRESETS } from "./preset.ts";
import type { WaterBody } from "./water/body.ts";

/** What lay at a place at first. */
const presetStep: PresetOf =
	({ preset, seed, heightM }) =>
	(_, x, z) =>
		PRESETS[preset].height(x, z, seed, heightM);

/** Height of the ground at (x, z), metres: its preset, what has happened to it since, its level. Deterministic on every engine. */
export function groundHeight(ground: Ground, x: number, z: number): number {
	const { preset, seed, heightM, ledger, levelM = 0 } = ground;
	const before = PRESETS[preset].height(x, z, seed, heightM);
	return (ledger?.length ? ledgerOf(ground, ledger, presetStep)(before, x, z) : before) + levelM;
}

/** Squares that have to be made and held before heights are asked for, in the order in which they can be made. */
export const landNeeds = (ground: Ground): readonly LandNeed[] =>
	ground.ledger ? needsOfLedger(ground, ground.ledger, presetStep) : [];

/** What of pictures has to be held before heights are asked for. */
export const landReads = (ground: Ground): readonly LandRead[] =>
	ground.ledger ? readsOfLedger(ground, ground.ledger, presetStep) : [];

const NO_COLOURS: readonly Coloured[] = [];

/** Colours that what happened to the land gives it where it is dry, oldest first. They are told heights over the ground's own level. */
export const landColours = (ground: Ground): readonly Coloured[] =>
	ground.ledger ? coloursOfLedger(ground, ground.ledger, presetStep) : NO_COLOURS;

/** What of the land stands aside from where its height was told, by heights over level zero; null where nothing does. */
export function landPush(ground: Ground): Push | null {
	const { ledger, levelM = 0 } = ground;
	const push = ledger?.length ? pushOfLedger(ground, ledger, presetStep) : null;
	return push && levelM ? { ...push, at: (x, y, z) => push.at(x, y - levelM, z) } : push;
}

const NO_WATERS: ReadonlyMap<string, WaterBody> = new Map();

/** Waters that lie in the land, by the ids of their entries; heights of them count from the ground's own level. */
export const watersOf = (ground: Ground): ReadonlyMap<string, WaterBody> =>
	ground.ledger ? watersOfLedger(ground, ground.ledger, presetStep) : NO_WATERS;

/** Level of the water in the land over a place, metres, also where the shore has risen over it; null where there is none. */
export function waterInLand(ground: Ground, x: number, z: number): number | null {
	let level: number | null = null;
	for (const water of watersOf(ground).values()) {
		const own = water.levelAt(x, z);
		if (own !== null && (level === null || own > level)) level = own;
	}
	return level === null ? null : level + (ground.levelM ?? 0);
}

/** How much has been worn from a place, and laid there, metres. */
export const wornAt = (ground: Ground) => wornOfLedger(ground, ground.ledger ?? [], presetStep);

/** How far the land is a path at a place, 0 to 1; null where there is none. */
export const onPaths = (ground: Ground): ((x: number, z: number) => number) | null =>
	ground.ledger ? surfaceOfLedger(ground, ground.ledger, presetStep) : null;

/** What an entry of the ledger comes to over the land before it, in words. */
export const entryTold = (ground: Ground, id: string): string => toldOf(ground, ground.ledger ?? [], presetStep, id);

/** Metres from a place to the edge of the nearest path; null where there is none. */
export const farFromPaths = ({ ledger }: Ground) => (ledger ? farFromPathsOf(ledger) : null);

/** How small what the ledger makes about a place is; null where nothing of it has to be looked for. */
export const grainOf = ({ ledger }: Ground) => (ledger ? grainOfLedger(ledger) : null);

/** The same land in so few cells that it is made while a hand waits. */
export function coarseGround(ground: Ground): Ground {
	const coarse = ground.ledger && coarseLedger(ground, ground.ledger, presetStep);
	return coarse === ground.ledger ? ground : { ...ground, ledger: [...(coarse ?? [])] };
}

/** Slope of the ground along x and along z (rise over run) over a reach of half a metre. */
export function groundSlope(ground: Ground, x: number, z: number): { dx: number; dz: number } {
	const e = 0.25;
	return {
		dx: (groundHeight(ground, x + e, z) - groundHeight(ground, x - e, z)) / (2 * e),
		dz: (groundHeight(ground, x, z + e) - groundHeight(ground, x, z - e)) / (2 * e),
	};
}

/** Distances from the lens's foot at which ground and water are held against each other, and how near is the same plane. */
const LOOKED_AT_M = [3, 10, 30, 100, 300];
const SAME_M = 0.004;

/**
 * What of a still water's level is at fault about a place: it lies in the plane of the ground, or below all of it. Null when
 * some of it is seen and lies apart.
 */
export function waterOver(
	ground: Ground,
	{ levelM }: Pick<Water, "levelM">,
	[x, , z]: readonly number[],
): "in the ground" | "below the ground" | null {
	const over = LOOKED_AT_M.flatMap((r) =>
		Array.from({ length: 8 }, (_, i) => {
			const [dx, dz] = [r * cos((i * TAU) / 8), r * sin((i * TAU) / 8)];
			return levelM - groundHeight(ground, x + dx, z + dz);
		}),
	);
	const same = over.filter((d) => Math.abs(d) < SAME_M).length;
	if (same > over.length / 4) return "in the ground";
	return over.every((d) => d < 0) ? "below the ground" : null;
}
