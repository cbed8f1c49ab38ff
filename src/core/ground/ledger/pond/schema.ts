import { z } from "zod";
import { entry } from "../../../doc/schema/land.ts";
import { metres, number } from "../../../doc/schema/numbers.ts";

export const pond = entry("pond", {
	/** Hollows are looked for about it, in a square of 2 to the power of `fineness` cells a side. */
	x: metres,
	z: metres,
	radiusM: number(1, 5000),
	fineness: z.int().min(5).max(10),
	/** Shallower ones stay dry; how far the others are filled, 1 is to the rim. */
	leastM: number(0.01, 500),
	share: number(0.02, 1),
	/** Depth of a bowl that is dug first, over the whole place; 0 without. */
	digM: number(0, 200),
});
