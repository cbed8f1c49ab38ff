import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const aboveWater = z.object({
	kind: z.literal("above water"),
	out: z.boolean(),
	marginM: number(-10, 1000),
	featherM: number(0, 1000),
});
