import { z } from "zod";
import { degrees, number, Position } from "../../../doc/schema/numbers.ts";

/** A box, through which what lies there is looked at from its front. */
export const here = z.object({
	kind: z.literal("here"),
	/** Its middle, metres: of the world, or of the piece from its foot along its own directions. */
	at: Position,
	/** Where is looked to through it, and how it is turned about that, clockwise as it is looked at. */
	headingDeg: degrees,
	pitchDeg: number(-90, 90),
	turnDeg: degrees,
	wideM: number(0.01, 500),
	highM: number(0.01, 500),
	/** How far it reaches along the look, half of it before its middle. */
	deepM: number(0.01, 500),
	/** Share of its half over which it fades at its sides. */
	soft: number(0, 1),
});
