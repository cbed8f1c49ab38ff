/** A surface as a recipe: what it is called, how large its pattern is, and what it makes of a place. */

/** What a recipe tells of a place of its sheet. */
export interface Texel {
	/** Over the middle of the surface, millimetres. */
	heightMm: number;
	/** Base colour, linear. */
	red: number;
	green: number;
	blue: number;
	roughness: number;
}

export type Family = "rock" | "ground" | "salt and ice" | "wood" | "masonry" | "plaster and paving" | "metal" | "grown";

export interface Recipe {
	/** What it is called, in words by which it is looked for. */
	name: string;
	family: Family;
	/** Side of the square after which it repeats, metres. */
	sideM: number;
	/** What it makes of a place of the square (0 to 1 right and towards); whatever it reads repeats after the square. */
	made: (seed: number) => (u: number, v: number, out: Texel) => void;
}
