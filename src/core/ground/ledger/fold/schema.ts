import { entry, seed } from "../../../doc/schema/land.ts";
import { degrees, number } from "../../../doc/schema/numbers.ts";

export const fold = entry("fold", {
	seed,
	/** Way across the folds. */
	headingDeg: degrees,
	/** From crest to crest. */
	lengthM: number(4, 20_000),
	heightM: number(0, 3000),
	/** 0 is round, 1 has crests like roofs. */
	sharp: number(0, 1),
	/** How far folds stray from straight lines. */
	wander: number(0, 1),
});
