import { entry, seed, worn } from "../../../doc/schema/land.ts";
import { number } from "../../../doc/schema/numbers.ts";

export const water = entry("water", {
	...worn,
	seed,
	/** How far rivers have cut: 1 is until they lie nearly level. */
	power: number(0, 1),
	/** Share of what they carry that they lay down again. */
	laying: number(0, 1),
	/** Steepest that the banks stay. */
	restDeg: number(5, 80),
});
