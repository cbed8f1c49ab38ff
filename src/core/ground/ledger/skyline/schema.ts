import { z } from "zod";
import { entry } from "../../../doc/schema/land.ts";
import { metres, number } from "../../../doc/schema/numbers.ts";

export const MOST_SKYLINE_POINTS = 120;

export const skyline = entry("skyline", {
	/** Where the eye was that saw the line, its height over the ground's own level. */
	eye: z.tuple([metres, metres, metres]),
	/** The line: headings in degrees, growing, and rises over run. */
	line: z
		.array(z.tuple([number(-720, 720), number(-3, 3)]))
		.min(2)
		.max(MOST_SKYLINE_POINTS),
	distanceM: number(20, 60_000),
	/** How far the ridge reaches towards the eye, and twice as far beyond, as a share of the distance. */
	depth: number(0.02, 1),
	/** Degrees on which it fades beyond the line's ends. */
	fadeDeg: number(0.2, 60),
});
