import { z } from "zod";
import { choice } from "../../doc/schema/measure.ts";

/** An upright sheet for a picture that stands in the place. */
export const card = z.object({
	kind: z.literal("card"),
	turns: choice("It", ["stands as it is turned", "turns to the lens"], "stands as it is turned"),
});
