import { z } from "zod";

export const cone = z.object({ kind: z.literal("cone") });
