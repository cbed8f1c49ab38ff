import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const laidLand = z.object({
	kind: z.literal("laid land"),
	out: z.boolean(),
	/** How thick it lies at least. */
	fromM: number(0.001, 100),
	featherM: number(0, 100),
});
