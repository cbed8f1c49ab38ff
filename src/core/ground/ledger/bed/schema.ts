import { entry, seed } from "../../../doc/schema/land.ts";
import { degrees, number } from "../../../doc/schema/numbers.ts";

export const bed = entry("bed", {
	seed,
	/** Mean thickness of a layer of rock. */
	everyM: number(0.1, 200),
	/** How the layers lean, and the heading towards which they fall. */
	dipDeg: number(0, 60),
	headingDeg: degrees,
	/** How far the land has given way to them. */
	strength: number(0, 1),
});
