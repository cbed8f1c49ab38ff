import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const touching = z.object({
	kind: z.literal("touching"),
	/** Metres from what it meets: another piece, or the ground. */
	withinM: number(0.02, 8),
});
