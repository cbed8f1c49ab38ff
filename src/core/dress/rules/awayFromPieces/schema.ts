import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const awayFromPieces = z.object({
	kind: z.literal("away from pieces"),
	out: z.boolean(),
	widthM: number(0, 200),
	featherM: number(0, 200),
});
