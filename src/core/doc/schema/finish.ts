/** What is done to a picture after it is traced. */
import { z } from "zod";
import { Colour, number } from "./numbers.ts";

/** Most that a lens bends. */
export const MOST_BEND = 0.35;

export const ToneCurve = z.enum(["print", "straight"]);

/** What a lens that is not perfect does to its picture. */
export const LensCharacter = z.object({
	/** Radial bend about the frame's middle, by the division model, for half of the frame's diagonal; below 0 a barrel. */
	bend: number(-MOST_BEND, MOST_BEND),
	/** Share by which red is drawn larger, and blue smaller, than green. */
	fringe: number(-0.01, 0.01),
	/** How much of the natural fall-off of light away from the lens's axis there is: 1 is all of it. */
	falloff: number(0, 1),
	/** Colour of its glass. Its brightness does not count. */
	tint: Colour,
});

export const Finish = z.object({
	exposureEv: number(-8, 8),
	curve: ToneCurve,
	contrast: number(0.5, 2),
	vignette: number(0, 1),
	/** A lens without character without it. */
	lens: LensCharacter.optional(),
});

export type LensCharacter = z.infer<typeof LensCharacter>;
export type Finish = z.infer<typeof Finish>;
