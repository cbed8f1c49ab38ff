import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const besidePaths = z.object({
	kind: z.literal("beside paths"),
	out: z.boolean(),
	/** From a path's edge on. */
	fromM: number(0, 100),
	toM: number(0, 150),
	featherM: number(0, 40),
});
