/** Ground and water. */
import { z } from "zod";
import * as entries from "../../ground/ledger/schemas.ts";
import { GroundPreset, LandFile, LandWhere, Laying, MOST_LINES, MOST_WHERES } from "./land.ts";
import { degrees, number } from "./numbers.ts";

type AnyEntry = (typeof entries)[keyof typeof entries];

/** What has happened to the land. Kinds are listed in `core/ground/ledger/schemas.ts`. */
export const LandEntry = z.discriminatedUnion("kind", Object.values(entries) as [AnyEntry, ...AnyEntry[]]);

/** Entries of a ledger at most. */
export const MOST_ENTRIES = 40;

export const Ground = z.object({
	preset: GroundPreset,
	seed: z.int().min(0).max(99999),
	heightM: number(0, 4000),
	/** What has happened to it since, oldest first. Heights in it count from the ground's own level. */
	ledger: z.array(LandEntry).max(MOST_ENTRIES).optional(),
	/** Height of all of it over level zero, metres; 0 without. */
	levelM: number(-1000, 4000).optional(),
	/** Radius of the planet that land and water lie on, kilometres; the Earth's without, null where the world is flat. */
	planetKm: number(100, 1e6).nullable().optional(),
	/** Left out: it is not seen and nothing grows on it. What stands on it stays where it is. */
	out: z.boolean().optional(),
});

export const Water = z.object({
	on: z.boolean(),
	levelM: number(-1000, 4000),
	/** Height of the ripples from trough to crest, millimetres. */
	rippleMm: number(0, 500),
	/** Where waves run, degrees; 60 without. */
	headingDeg: degrees.optional(),
	/** Wind that raises waves, m/s at 10 m, and metres over which it blows; ripples have their own height where there is none. */
	windMs: number(0, 45).optional(),
	fetchM: number(5, 2e6).optional(),
	/** Distance in water after which 2 % of the bed's contrast is left, metres. */
	clarityM: number(0.05, 200),
});

export { MOST_STROKE_POINTS, MOST_STROKES, Stroke, StrokeTool } from "../../ground/ledger/hand/schema.ts";
export { MOST_SKYLINE_POINTS } from "../../ground/ledger/skyline/schema.ts";
export { GroundPreset, LandFile, LandWhere, Laying, MOST_LINES, MOST_WHERES };
export type Stroke = z.infer<typeof Stroke>;
export type StrokeTool = z.infer<typeof StrokeTool>;
export type LandEntry = z.infer<typeof LandEntry>;
export type Ground = z.infer<typeof Ground>;
export type Water = z.infer<typeof Water>;
