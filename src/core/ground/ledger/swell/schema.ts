import { entry, seed } from "../../../doc/schema/land.ts";
import { number } from "../../../doc/schema/numbers.ts";

export const swell = entry("swell", {
	seed,
	sizeM: number(2, 20_000),
	heightM: number(0, 3000),
	/** 0 is smooth, 1 as rough as a field of boulders. */
	rough: number(0, 1),
});
