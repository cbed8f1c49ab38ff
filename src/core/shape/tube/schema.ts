import { z } from "zod";
import { length } from "../../doc/schema/measure.ts";

export const tube = z.object({ kind: z.literal("tube"), wallM: length("Wall", 0.001, 1000, 0.1) });
