/** Where a surface lies over another: a band of something that is known at each place, and the sentence in which a person sets it. */
import type { NumberField } from "../../doc/field.ts";
import type { LaidWhere } from "../../doc/schema.ts";

/** What is known at a place, by the numbers that the tracer and the working view know them by. */
export const QUANTITIES = {
	/** How far it leans: 0 faces up, 1 stands upright, 2 faces down; 1 less the cosine. */
	lean: 1,
	/** Metres over the piece's foot, on the ground over level zero. */
	height: 2,
	/** Clouds of so many metres, 0 to 1, half of all places below a half. */
	clouds: 3,
	/** What a volume has there, 0 to 1. */
	volume: 4,
	/** Inside a box. */
	box: 5,
} as const;

/**
 * How far something else is, up to so many metres, or the land alone, or paths; what has been painted in a mask; how full it is about a place
 * of a body; from how much land water comes by.
 */
export type VolumeAsked =
	| { kind: "seams" | "land" | "paths"; reachM: number }
	| { kind: "rain" }
	| { kind: "paint"; mask: string }
	| { kind: "hollow"; sizeM: number };

/** A box through which what lies there is looked at, away from right across up: its middle, its directions, half of its sides. */
export interface Box {
	at: readonly [number, number, number];
	right: readonly [number, number, number];
	up: readonly [number, number, number];
	half: readonly [wide: number, high: number, deep: number];
	/** Share of the half over which it fades at its sides. */
	soft: number;
	/** What looks away from its front has it as well. */
	both?: true;
}

/** Full between the rise and the fall of a quantity. */
export interface Band {
	of: keyof typeof QUANTITIES;
	rises: readonly [from: number, to: number];
	falls: readonly [from: number, to: number];
	/** Of clouds. */
	sizeM?: number;
	seed?: number;
	/** How much more slowly they change upright: 1 where nothing is said. */
	upright?: number;
	/** The box, where the band is of one; it is all that counts then. */
	box?: Box;
	/** What a volume is to be made of, where the band is of one; `compile` makes it. */
	asks?: VolumeAsked;
	/** The volume: its part, what it is where nothing is known, and whether it lies by the world or by the piece's own metres. */
	volume?: { part: string; missing: number; world: boolean };
}

export interface WhereMaker<W extends LaidWhere = LaidWhere> {
	/** As it is taken in. */
	usual: W;
	/** The same, where each one that is taken in needs a name of its own. */
	taken?: (newId: string) => W;
	/** It asks what plants have not: an inside, neighbours, a place of its own. */
	notOnPlants?: true;
	/** What the act is called that takes it in. */
	act: string;
	sentence: (where: W) => string;
	fields: readonly NumberField<W>[];
	band: (where: W) => Band;
}

/** Beyond all that a quantity can be. */
export const NEVER = 1e9;

/** Everything inside a box. */
export const inBox = (box: Box): Band => ({ of: "box", rises: [-2, -1], falls: [NEVER, 2 * NEVER], box });
