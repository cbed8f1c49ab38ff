import { z } from "zod";
import { count, seed, share } from "../../doc/schema/measure.ts";

/** A lump: a ball that is uneven by a part of its radius, in so many swellings along its girth. */
export const blob = z.object({
	kind: z.literal("blob"),
	uneven: share("Uneven", 0.35),
	swells: count("Swells", 1, 12, 3),
	seed: seed(),
});
