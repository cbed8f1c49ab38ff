import { z } from "zod";
import { lengthIfAny } from "../../doc/schema/measure.ts";

export const box = z.object({ kind: z.literal("box"), roundM: lengthIfAny("Round edges", 100) });
