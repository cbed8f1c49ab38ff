import { z } from "zod";
import { shareIfAny } from "../../doc/schema/measure.ts";

/** `top`: width of its top as a part of its foot's. */
export const cone = z.object({ kind: z.literal("cone"), top: shareIfAny("Top", 0.99) });
