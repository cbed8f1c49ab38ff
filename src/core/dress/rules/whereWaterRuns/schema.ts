import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const whereWaterRuns = z.object({
	kind: z.literal("where water runs"),
	out: z.boolean(),
	/** Ground from which the water of rain comes by, at least. */
	fromM2: number(1, 1e7),
	/** Middle of the square over which it is told, right and towards, and how far that reaches. */
	x: number(-1e6, 1e6),
	z: number(-1e6, 1e6),
	withinM: number(10, 5000),
});
