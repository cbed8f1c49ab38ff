import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const slope = z.object({
	kind: z.literal("slope"),
	out: z.boolean(),
	maxDeg: number(0, 90),
	featherDeg: number(0, 90),
});
