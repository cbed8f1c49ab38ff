import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const edges = z.object({
	kind: z.literal("edges"),
	/** How large they are, metres. */
	sizeM: number(0.01, 20),
	soft: number(0, 1),
});
