import { z } from "zod";
import { corners, drawnLine } from "../../doc/schema/curve.ts";
import { length } from "../../doc/schema/measure.ts";

/** Openings of one wall at most. */
export const MOST_OPENINGS = 200;

export const Opening = z.object({
	/** Keeps through all later acts: faces are named by it. */
	n: z.int().min(0).max(9999),
	/** Its middle, along the wall from its beginning. */
	alongM: z.number().min(0).max(1e5),
	widthM: z.number().min(0.05).max(1e4),
	/** Its sill over the wall's foot; a door has none. */
	sillM: z.number().min(0).max(1e4),
	/** From its sill to the top of its head. */
	tallM: z.number().min(0.05).max(1e4),
	head: z.enum(["straight", "round", "low", "pointed"]),
});

const overlap = (openings: readonly z.infer<typeof Opening>[]) => {
	const sorted = [...openings].sort((a, b) => a.alongM - b.alongM);
	return sorted.some((o, i) => i > 0 && o.alongM - o.widthM / 2 < sorted[i - 1].alongM + sorted[i - 1].widthM / 2);
};

/** A wall along a line, with openings. */
export const wall = z.object({
	kind: z.literal("wall"),
	points: drawnLine().default(corners([-2, 0], [0.5, 0], [2, 1.2])),
	/** It ends where it begins. */
	closed: z.boolean().default(false),
	thickM: length("Thickness", 0.005, 100, 0.3),
	openings: z
		.array(Opening)
		.max(MOST_OPENINGS)
		.refine((all) => new Set(all.map((o) => o.n)).size === all.length, "Two openings have the same number.")
		.refine((all) => !overlap(all), "Two openings of the wall lie over each other.")
		.default([]),
});
