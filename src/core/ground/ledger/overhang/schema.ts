import { entry, seed } from "../../../doc/schema/land.ts";
import { number } from "../../../doc/schema/numbers.ts";

export const overhang = entry("overhang", {
	seed,
	/** How far the hardest ledges stand out over the wall. */
	outM: number(0.05, 40),
	/** Mean height of a ledge. */
	everyM: number(0.1, 200),
	/** Slope from which land is a wall. */
	fromDeg: number(15, 85),
	/** How far a ledge's edge strays, as a share of what it stands out. */
	ragged: number(0, 1),
});
