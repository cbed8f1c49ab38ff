import { entry, seed } from "../../../doc/schema/land.ts";
import { degrees, number } from "../../../doc/schema/numbers.ts";

export const slump = entry("slump", {
	seed,
	/** Across a slide, and how deep it has cut. */
	sizeM: number(2, 5000),
	dropM: number(0, 500),
	/** Share of the land that has slid. */
	share: number(0, 1),
	/** Where it has slid to. */
	headingDeg: degrees,
});
