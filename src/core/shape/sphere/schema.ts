import { z } from "zod";

export const sphere = z.object({ kind: z.literal("sphere") });
