/** What lies over several things at once, and what a brush has painted. */
import { z } from "zod";
import { Id, number, Position } from "./numbers.ts";
import { LaidOver } from "./surface.ts";

/** Places of a stroke at most, and strokes of a mask. */
export const MOST_MASK_POINTS = 200;
export const MOST_MASK_STROKES = 400;
export const MOST_MASKS = 200;
export const MOST_STAINS = 40;

export const MaskStroke = z.object({
	/** Metres: of the world, or of the piece that the mask is of, from its foot along its own directions. */
	points: z.array(Position).min(1).max(MOST_MASK_POINTS),
	radiusM: number(0.005, 500),
	strength: number(0.01, 1),
	/** Share of the radius over which it fades. */
	soft: number(0, 1),
	/** It takes away. */
	away: z.boolean(),
});
export type MaskStroke = z.infer<typeof MaskStroke>;

/** Where a brush has been. */
export const Mask = z.object({
	id: Id,
	/** The piece in whose own metres it lies; null in those of the world. */
	on: Id.nullable(),
	strokes: z.array(MaskStroke).max(MOST_MASK_STROKES),
});
export type Mask = z.infer<typeof Mask>;

/** A surface that lies over several pieces and the ground as if they were one: by the metres of the world. */
export const Stain = z.object({
	id: Id,
	pieces: z.array(Id).max(5000),
	ground: z.boolean(),
	laid: LaidOver,
});
export type Stain = z.infer<typeof Stain>;
