/** A where rule: how it weighs the places of a cover, and the sentence in which a person reads and sets it. */
import type { NumberField } from "../../doc/field.ts";
import type { Camera, Cover, Ground, Rule, Water } from "../../doc/schema.ts";
import type { FrameOfView } from "../../lens/camera.ts";
import type { Footprint } from "../footprints.ts";

/** Side of the squares of ground in which covers are placed. */
export const CELL_M = 16;

/** What rules may ask about. */
export interface Surroundings {
	cover: Cover;
	camera: Camera;
	/** The views that it is looked at in: the camera's own, or those of its whole way. */
	views: readonly FrameOfView[];
	ground: Ground;
	water: Water;
	footprints: readonly Footprint[];
}

/** A square of ground by its numbers: it begins at (x, z) times {@link CELL_M}. */
export interface Cell {
	x: number;
	z: number;
}

/** A rule that weighs inside a cell. */
export interface Weighing {
	/** All that the weights are made of besides the rule itself, ground and seed: the cell's plants are kept by it. */
	madeOf: unknown[];
	/** 0 to 1 at a place in metres. */
	weight: (x: number, z: number) => number;
}

export interface WhereRule<R extends Rule = Rule> {
	/** The rule as it is taken in. */
	usual: R;
	/** The same as a hand takes it in that looks through a lens, where it matters where that stands. */
	begun?: (camera: Camera) => R;
	/** Its place among the rules that a new cover starts with; null when it is not among them. */
	usually: number | null;
	/** What the act is called that takes it in. */
	act: string;
	sentence: (rule: R) => string;
	fields: readonly NumberField<R>[];
	/** Distance from the lens beyond which it leaves nothing; none where it does not speak of the lens. */
	farthestM?: (rule: R) => number;
	/** It speaks of pieces: what all other rules leave in a cell is kept while pieces move. */
	ofPieces?: boolean;
	/** What it does in a cell: it lets all stand there, nothing, or weighs place by place. */
	inCell: (rule: R, around: Surroundings, cell: Cell) => "all" | "none" | Weighing;
}

/** Distance on one axis from a value to the cell that begins at `begin` times {@link CELL_M}, 0 inside. */
export const gapTo = (v: number, begin: number): number => Math.max(begin * CELL_M - v, v - begin * CELL_M - CELL_M, 0);
