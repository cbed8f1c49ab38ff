import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const runs = z.object({
	kind: z.literal("runs"),
	widthM: number(0.01, 100),
	/** Times as long as they are wide. */
	long: number(1, 100),
	/** Of all places that they cover, about. */
	share: number(0, 1),
	soft: number(0, 1),
	seed: z.int().min(0).max(99_999),
});
