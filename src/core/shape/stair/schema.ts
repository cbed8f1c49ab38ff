import { z } from "zod";
import { count, lengthOrOwn } from "../../doc/schema/measure.ts";

/** Steps up from the near side to the away side; solid down to its foot, or a flight of a thickness measured upright. */
export const stair = z.object({
	kind: z.literal("stair"),
	steps: count("Steps", 1, 300, 6),
	flightM: lengthOrOwn("Flight", 0.01, 1000),
});
