import { z } from "zod";
import { corners, drawnOutline } from "../../doc/schema/curve.ts";
import { length, seed, share } from "../../doc/schema/measure.ts";

/** A plan cut by streets into uneven blocks of houses; its height is that of the tallest. */
export const town = z.object({
	kind: z.literal("town"),
	points: drawnOutline().default(corners([-100, -80], [110, -70], [90, 80], [-90, 90])),
	streetM: length("Streets", 1, 200, 9),
	blockM: length("Blocks", 8, 1000, 55),
	houseM: length("Houses", 3, 300, 14),
	/** The lowest house, as a part of the tallest. */
	lowest: share("Lowest", 0.35),
	/** How far houses stand back from where they could. */
	backM: length("Set back", 0, 50, 0.6),
	lit: share("Lit windows", 0.15),
	seed: seed(),
});
