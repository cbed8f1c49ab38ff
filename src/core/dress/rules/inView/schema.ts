import { z } from "zod";
import { number } from "../../../doc/schema/numbers.ts";

export const inView = z.object({ kind: z.literal("in view"), out: z.boolean(), marginPercent: number(0, 100) });
