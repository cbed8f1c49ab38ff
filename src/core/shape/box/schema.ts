import { z } from "zod";

export const box = z.object({ kind: z.literal("box") });
