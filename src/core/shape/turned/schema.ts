import { z } from "zod";
import { corners, turnedLine } from "../../doc/schema/curve.ts";

const soft = (p: { n: number; at: [number, number] }) => ({ ...p, soft: true });

/** A line, out from an upright axis and up, that is turned about it. */
export const turned = z.object({
	kind: z.literal("turned"),
	points: turnedLine().default(() => {
		const [foot, belly, neck, lip] = corners<[number, number]>([0.26, 0], [0.5, 0.42], [0.2, 0.82], [0.28, 1]);
		return [foot, soft(belly), soft(neck), lip];
	}),
});
