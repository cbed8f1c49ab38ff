import { z } from "zod";
import { lengthIfAny } from "../../doc/schema/measure.ts";

/** Half a ball that stands on its rim; solid, or a shell with a wall. */
export const dome = z.object({ kind: z.literal("dome"), wallM: lengthIfAny("Wall", 1000) });
