import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const beside = z.object({
	kind: z.literal("beside"),
	/** Metres from the edge of a path; on it as well. */
	withinM: number(0.05, 60),
	soft: number(0, 1),
});
