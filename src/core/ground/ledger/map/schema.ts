import { z } from "zod";
import { entry, LandFile, Laying } from "../../../doc/schema/land.ts";
import { degrees, metres, number } from "../../../doc/schema/numbers.ts";

export const map = entry("map", {
	/** Pictures that tell heights, colours, and how far the map holds at a place; each of the others covers all of the first. */
	files: z.object({ heights: LandFile.nullable(), colours: LandFile.nullable(), mask: LandFile.nullable() }),
	/** Its middle, and the heading of its upper edge. */
	x: metres,
	z: metres,
	headingDeg: degrees,
	/** From its left edge to its right one; its depth follows from its pixels. */
	acrossM: number(1, 1e6),
	/** Heights of its darkest and of its lightest value. */
	leastM: number(-12_000, 12_000),
	mostM: number(-12_000, 12_000),
	/** Way from its edges on which it goes over into the land. */
	featherM: number(0, 1e5),
	how: Laying,
	/** Steps of values that have few bits stay as they are, or become slopes that keep within half a step. */
	steps: z.enum(["kept", "smoothed"]),
});
