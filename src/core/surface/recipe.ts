/** A surface as a recipe: what it is called, how large its pattern is, and what it is made of. */
import type { Amount, Field, Paint } from "./field.ts";
import type { Patterns } from "./patterns.ts";

export type Family =
	| "rock"
	| "ground"
	| "salt and ice"
	| "wood"
	| "masonry"
	| "plaster and paving"
	| "roofs"
	| "metal"
	| "grown"
	| "cloth and glass";

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
	/** Side of the square after which it repeats, metres. */
	sideM: number;
	/** From its lowest to its highest, millimetres, as it lies when it is laid. */
	depthMm: number;
	/**
	 * How its repeats are broken up: turned and shifted freely where nothing in it has a direction; shifted, where it has; shifted by
	 * whole blocks along its rows (so many of them over the square), where it is laid.
	 */
	grain: "turns" | "shifts" | { blocks: number };
	made: (p: Patterns) => Made;
}
