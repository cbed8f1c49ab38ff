import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const high = z.object({
	kind: z.literal("high"),
	/** Metres over the foot of a piece, on the ground over level zero. */
	fromM: number(-5000, 10_000),
	toM: number(-5000, 10_000),
	softM: number(0, 1000),
});
