import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const inHollows = z.object({
	kind: z.literal("in hollows"),
	out: z.boolean(),
	/** How deep they lie below their surroundings at least, and how far about a place those are. */
	deepM: number(0.01, 100),
	aboutM: number(0.1, 1000),
	featherM: number(0, 100),
});
