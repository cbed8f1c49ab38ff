import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const nearLens = z.object({
	kind: z.literal("near the lens"),
	out: z.boolean(),
	distanceM: number(0.5, 3000),
	featherM: number(0, 3000),
});
