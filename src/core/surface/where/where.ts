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
} as const;

/** Full between the rise and the fall of a quantity. */
export interface Band {
	of: keyof typeof QUANTITIES;
	rises: readonly [from: number, to: number];
	falls: readonly [from: number, to: number];
	/** Of clouds. */
	sizeM?: number;
	seed?: number;
}

export interface WhereMaker<W extends LaidWhere = LaidWhere> {
	/** As it is taken in. */
	usual: W;
	/** What the act is called that takes it in. */
	act: string;
	sentence: (where: W) => string;
	fields: readonly NumberField<W>[];
	band: (where: W) => Band;
}

/** Beyond all that a quantity can be. */
export const NEVER = 1e9;
