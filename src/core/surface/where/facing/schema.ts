import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const facing = z.object({
	kind: z.literal("facing"),
	/** Degrees from facing up: 90 stands upright, 180 faces down. */
	fromDeg: number(0, 180),
	toDeg: number(0, 180),
	softDeg: number(0, 90),
});
