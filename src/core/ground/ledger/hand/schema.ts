import { z } from "zod";
import { entry, seed } from "../../../doc/schema/land.ts";
import { metres, number } from "../../../doc/schema/numbers.ts";

/** What a stroke of the hand does to the land under it. */
export const StrokeTool = z.enum(["raise", "lower", "pull", "flatten", "smooth", "relief"]);

/** Places of a stroke at most, and strokes of an entry. */
export const MOST_STROKE_POINTS = 200;
export const MOST_STROKES = 400;

export const Stroke = z.object({
	tool: StrokeTool,
	/** Right and towards, metres. */
	points: z
		.array(z.tuple([metres, metres]))
		.min(1)
		.max(MOST_STROKE_POINTS),
	radiusM: number(0.1, 20_000),
	/** Metres in its middle. */
	byM: number(0, 2000),
	/** Height that is flattened to, over the ground's own level. */
	levelM: number(-5000, 5000).optional(),
	seed: seed.optional(),
});

export const hand = entry("hand", { strokes: z.array(Stroke).max(MOST_STROKES) });
