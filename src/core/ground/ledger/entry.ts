/** What may have happened to the land: how it changes the heights that were there, and the sentence in which it is told. */
import type { NumberField, PickField } from "../../doc/field.ts";
import type { Ground, LandEntry } from "../../doc/schema.ts";
import type { LandPictureAs } from "../../formats/landPicture.ts";
import type { Wear } from "../field.ts";
import type { LandRead } from "../pictures.ts";
import type { Rgb } from "../preset.ts";
import type { WaterBody } from "../water/body.ts";
import type { Grain } from "./grain.ts";

/** What an entry of itself is, before it has an id. */
export type Usual<E extends LandEntry> = Omit<E, "id" | "out" | "where">;

/** Something of a place by the height that was there before. */
export type Step = (before: number, x: number, z: number) => number;

/** What land is before anything has happened to it. */
export type LandBefore = Pick<Ground, "preset" | "seed" | "heightM" | "planetKm">;

/** What an entry finds. */
export interface Before extends LandBefore {
	/** How far the land at a place is the surface of an entry before it; none where no entry has one. */
	onPaths?: ((x: number, z: number) => number) | null;
}

/** Height of the land at a place. */
export type Land = (x: number, z: number) => number;

/** What of the land stands aside from where its height was told, for a field of heights cannot hang over. */
export interface Push {
	/** How far it stands right and towards, metres, where it is so high over the ground's own level; null where it stays. Continuous. */
	at: (x: number, y: number, z: number) => { x: number; z: number } | null;
	/** Rise over run of the gentlest land that may: what looks about a place pays for each look. */
	least: number;
	/** The longest edge over land as steep as that which shows it at a place, metres. */
	grain: (x: number, z: number) => number;
}

/** A round place and the square about it in which land wears. */
export interface Worn {
	x: number;
	z: number;
	radiusM: number;
	/** About the place, where what has worn goes over into what has not. */
	featherM: number;
	cells: number;
	wear: Wear;
}

/** A picture that an entry may take: its name among the entry's files, and what is read of it. */
export interface FileField<E> {
	label: string;
	value: E extends { files: infer F } ? keyof F & string : never;
	as: Exclude<LandPictureAs, "smoothed" | "cut">;
}

/** The colour that something gives the dry land at a place and height, and how far; `steep` is the sine of the slope. */
export type Coloured = (x: number, y: number, z: number, steep: number) => { colour: Rgb; share: number } | null;

interface Told<E extends LandEntry> {
	/** The entry as it is taken in, before the land about a place (right and towards, metres) that is looked at along a heading. */
	usual: (x: number, z: number, headingDeg: number) => Usual<E>;
	/** What the act is called that takes it in. */
	act: string;
	/** What does it; what a hand draws in the frame is begun there and not by an act, and of `files` the first is picked with it. */
	by: "rock" | "weather" | "people" | "files" | "hand";
	/** What has happened, as the ledger tells it. */
	sentence: (entry: E) => string;
	fields: readonly NumberField<E>[];
	picks?: readonly PickField<E>[];
	files?: readonly FileField<E>[];
	/** What of its files has to be held before heights are asked for. */
	reads?: (entry: E) => readonly LandRead[];
}

/** What one place tells by itself. */
interface Placed<E extends LandEntry> extends Told<E> {
	/**
	 * Height at a place in metres, of the height that was there before; continuous, and the same bits on every engine. `land` is what
	 * lay at any place before the entry: what looks about a place pays for each look.
	 */
	made: (entry: E, land: Land, of: Before) => Step;
	/** Where it makes what is so small that a mesh has to be told of it. */
	grain?: (entry: E) => Grain;
	/** How far the land at a place is its surface, 0 to 1: nothing grows there, and it has its own colour. */
	surface?: (entry: E, land: Land) => (x: number, z: number) => number;
	/** The colour that it gives the dry land; null where it gives none. */
	colour?: (entry: E, land: Land, of: Before) => Coloured;
	/** How far a place lies from its edge, metres; infinite where nobody asks any more. */
	far?: (entry: E) => (x: number, z: number) => number;
	/** What of the land as it lies in the end it pushes aside, where it holds by a weight. */
	pushes?: (entry: E, land: Land, weight: Land | null) => Push;
	/** What it comes to over the land before it, in words. */
	tells?: (entry: E, land: Land, of: LandBefore) => string;
	/** Water that it lets into the land as it lies in the end, where it holds by a weight; and into the land as it was before it. */
	water?: (entry: E, land: Land, weight: Step | null, before: Land) => WaterBody;
	/** The same so coarse that it is made while a hand waits. */
	coarse?: (entry: E) => E;
	/** What of it its heights follow from, where that is not all of it: what wears later is not made anew for the rest. */
	shapes?: (entry: E) => object;
}

/** What is made over a square of the land before, by a host. */
interface Wearing<E extends LandEntry> extends Told<E> {
	worn: (entry: E) => Worn;
	/** The same in so few cells that it is made while a hand waits. */
	coarse: (entry: E) => E;
}

export type LandMaker<E extends LandEntry = LandEntry> = Placed<E> | Wearing<E>;
