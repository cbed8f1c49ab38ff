import { z } from "zod";
import { lengthIfAny } from "../../doc/schema/measure.ts";

export const cylinder = z.object({ kind: z.literal("cylinder"), roundM: lengthIfAny("Round edges", 100) });
