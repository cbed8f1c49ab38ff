import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const patches = z.object({
	kind: z.literal("patches"),
	sizeM: number(0.02, 1000),
	/** Of all places that they cover, about. */
	share: number(0, 1),
	soft: number(0, 1),
	seed: z.int().min(0).max(99_999),
});
