/** A surface as a recipe: what it is called, how large its pattern is, and what it is made of. */
import type { Amount, Field, Paint } from "./field.ts";
import type { Patterns } from "./patterns.ts";

/** In the order in which they are offered. */
export const FAMILIES = [
	"rock",
	"ground",
	"salt and ice",
	"grown",
	"wood",
	"masonry",
	"plaster and paving",
	"roofs",
	"metal",
	"cloth and glass",
] as const;

export type Family = (typeof FAMILIES)[number];

/** What a recipe makes of its square. */
export interface Made {
	/** Over the middle of the surface, millimetres. */
	heightMm: Field;
	/** Base colour, linear. */
	colour: Paint;
	roughness: Amount;
	/** 0 without. */
	metal?: Amount;
}

export interface Recipe {
	/** What it is called, in words by which it is looked for. */
	name: string;
	family: Family;
	/** Where it is met and what it is like, in more words to find it by. */
	found: string;
	/** Side of the square after which it repeats, metres. */
	sideM: number;
	/** From its lowest to its highest, millimetres, as it lies when it is laid. */
	depthMm: number;
	/** How thick it lies over others besides, millimetres; as thin as paint without. */
	thickMm?: number;
	/**
	 * How its repeats are broken up: turned and shifted freely where nothing in it has a direction; shifted, where it has; shifted by
	 * whole blocks along its rows (so many of them over the square), where it is laid.
	 */
	grain: "turns" | "shifts" | { blocks: number };
	made: (p: Patterns) => Made;
}
