import { z } from "zod";
import { Id } from "../../../doc/schema/numbers.ts";

export const painted = z.object({
	kind: z.literal("painted"),
	/** The mask that holds the strokes; without one nothing is painted yet. */
	mask: Id,
});
