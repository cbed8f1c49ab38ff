import { entry, seed } from "../../../doc/schema/land.ts";
import { degrees, number } from "../../../doc/schema/numbers.ts";

export const wind = entry("wind", {
	seed,
	/** From crest to crest, and how high drifts have become. */
	sizeM: number(0.1, 3000),
	heightM: number(0, 300),
	/** Where it blew to. */
	headingDeg: degrees,
	/** Share of the land that drifts cover. */
	share: number(0, 1),
});
