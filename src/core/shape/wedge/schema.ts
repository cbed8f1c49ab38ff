import { z } from "zod";

export const wedge = z.object({ kind: z.literal("wedge") });
