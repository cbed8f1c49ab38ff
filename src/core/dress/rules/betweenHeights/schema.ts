import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const betweenHeights = z.object({
	kind: z.literal("between heights"),
	out: z.boolean(),
	/** Heights over level zero. */
	fromM: number(-1000, 9000),
	toM: number(-1000, 9000),
	featherM: number(0, 1000),
});
