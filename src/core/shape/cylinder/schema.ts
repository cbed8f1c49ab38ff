import { z } from "zod";

export const cylinder = z.object({ kind: z.literal("cylinder") });
