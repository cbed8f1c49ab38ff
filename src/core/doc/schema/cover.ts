/** Covers of grown things. */
import { z } from "zod";
import * as rules from "../../dress/rules/schemas.ts";
import { Colour, Id, Name, number } from "./numbers.ts";
import { Laid } from "./surface.ts";

type AnyRule = (typeof rules)[keyof typeof rules];

/** A sentence about where a cover stands. Kinds are listed in `core/dress/rules/schemas.ts`. */
export const Rule = z.discriminatedUnion("kind", Object.values(rules) as [AnyRule, ...AnyRule[]]);

/** Plants, one line each; what they are stands in `core/dress/plants`. */
export const Species = z.enum([
	"tussock", //
	"shrub",
]);

export const Cover = z.object({
	id: Id,
	name: Name,
	species: Species,
	densityPerM2: number(0, 60),
	sizeM: z.tuple([number(0.02, 30), number(0.02, 30)]),
	seed: z.int().min(0).max(99999),
	colour: Colour,
	hidden: z.boolean(),
	/** What lies on its plants, each in its own metres. */
	laid: Laid.nullable().optional(),
	rules: z.array(Rule).max(12),
});

export type Rule = z.infer<typeof Rule>;
export type Species = z.infer<typeof Species>;
export type Cover = z.infer<typeof Cover>;
