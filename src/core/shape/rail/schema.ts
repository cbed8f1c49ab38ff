import { z } from "zod";
import { corners, drawnOutline, spaceLine } from "../../doc/schema/curve.ts";
import { choice, length } from "../../doc/schema/measure.ts";

/** A section that is led along a line: a rail, a pipe, a moulding. */
export const rail = z.object({
	kind: z.literal("rail"),
	points: spaceLine().default(() => {
		const [a, b, c] = corners<[number, number, number]>([-0.5, -0.3, 0], [0, 0.25, 0.2], [0.5, -0.1, 0.5]);
		return [a, { ...b, soft: true }, c];
	}),
	/** It ends where it begins. */
	closed: z.boolean().default(false),
	section: choice("Section", ["round", "square", "rail", "moulding", "own"], "round"),
	acrossM: length("Across", 0.005, 100, 0.1),
	tallM: length("Tall", 0.005, 100, 0.1),
	/** A section of its own, stretched to what it is across and tall. */
	outline: drawnOutline().optional(),
});
