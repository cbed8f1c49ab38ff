import { z } from "zod";

export const plane = z.object({ kind: z.literal("plane") });
