import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const patches = z.object({
	kind: z.literal("patches"),
	out: z.boolean(),
	sizeM: number(0.2, 1000),
	share: number(0.02, 1),
	featherM: number(0, 1),
});
