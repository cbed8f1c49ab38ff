import { z } from "zod";
import { choice, lengthOrOwn } from "../../doc/schema/measure.ts";

/** A wall with an opening under a curve: how wide it is, how high the curve begins, and what curve it is. */
export const arch = z.object({
	kind: z.literal("arch"),
	spanM: lengthOrOwn("Span", 0.01, 1e4),
	springM: lengthOrOwn("Spring", 0, 1e4),
	curve: choice("Curve", ["round", "pointed", "low", "straight"], "round"),
});
