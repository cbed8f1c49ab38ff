import { z } from "zod";
import { share } from "../../doc/schema/measure.ts";

/** `hole`: width of the hole in its middle as a part of its own. */
export const disc = z.object({ kind: z.literal("disc"), hole: share("Hole", 0, 0.99) });
