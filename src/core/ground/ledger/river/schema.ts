import { z } from "zod";
import { entry } from "../../../doc/schema/land.ts";
import { metres, number } from "../../../doc/schema/numbers.ts";

export const MOST_RIVER_POINTS = 60;

export const river = entry("river", {
	/** Where it runs, from its spring on; a smooth curve through them. */
	points: z
		.array(z.tuple([metres, metres]))
		.min(2)
		.max(MOST_RIVER_POINTS),
	widthM: number(0.3, 500),
	/** Of its water in the middle. */
	depthM: number(0.02, 50),
	/** It falls by at least so much, rise over run; where the land falls by more, so does it. */
	fall: number(0, 0.5),
	/** How far its water lies under the land beside it. */
	underM: number(0, 50),
	bankDeg: number(5, 80),
});
