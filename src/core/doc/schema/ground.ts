/** Ground and water. */
import { z } from "zod";
import { number } from "./numbers.ts";

/** Presets of the ground, one line each; what they are stands in `core/ground/presets`. */
export const GroundPreset = z.enum([
	"salt flat", //
	"plain",
	"ridges",
]);

export const Ground = z.object({
	preset: GroundPreset,
	seed: z.int().min(0).max(99999),
	heightM: number(0, 4000),
	/** Height of all of it over level zero, metres; 0 without. */
	levelM: number(-1000, 4000).optional(),
	/** Left out: it is not seen and nothing grows on it. What stands on it stays where it is. */
	out: z.boolean().optional(),
});

export const Water = z.object({
	on: z.boolean(),
	levelM: number(-1000, 4000),
	/** Height of the ripples from trough to crest, millimetres. */
	rippleMm: number(0, 500),
	/** Distance in water after which 2 % of the bed's contrast is left, metres. */
	clarityM: number(0.05, 200),
});

export type GroundPreset = z.infer<typeof GroundPreset>;
export type Ground = z.infer<typeof Ground>;
export type Water = z.infer<typeof Water>;
