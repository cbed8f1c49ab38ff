import { z } from "zod";
import { corners, drawnOutline } from "../../doc/schema/curve.ts";

/** An outline, seen from above, that is raised. */
export const raised = z.object({
	kind: z.literal("raised"),
	points: drawnOutline().default(corners([-0.5, -0.5], [0.5, -0.5], [0.5, 0], [0, 0], [0, 0.5], [-0.5, 0.5])),
});
