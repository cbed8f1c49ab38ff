import { entry, seed } from "../../../doc/schema/land.ts";
import { number } from "../../../doc/schema/numbers.ts";

export const fracture = entry("fracture", {
	seed,
	/** Across a block. */
	sizeM: number(2, 10_000),
	/** Most by which two blocks stand apart. */
	stepM: number(0, 1000),
	/** Width of the broken slope between them, as a share of a block. */
	width: number(0.02, 1),
});
