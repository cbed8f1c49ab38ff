/** What may have happened to the land: how it changes the heights that were there, and the sentence in which it is told. */
import type { NumberField } from "../../doc/field.ts";
import type { LandEntry } from "../../doc/schema.ts";

/** What an entry of itself is, before it has an id. */
export type Usual<E extends LandEntry> = Omit<E, "id" | "out" | "where">;

export interface LandMaker<E extends LandEntry = LandEntry> {
	/** The entry as it is taken in, before the land about a place (right and towards, metres). */
	usual: (x: number, z: number) => Usual<E>;
	/** What the act is called that takes it in. */
	act: string;
	/** What has happened, as the ledger tells it. */
	sentence: (entry: E) => string;
	fields: readonly NumberField<E>[];
	/** Height at a place in metres, of the height that was there before; continuous, and the same bits on every engine. */
	made: (entry: E) => (before: number, x: number, z: number) => number;
}
