import { entry, seed } from "../../../doc/schema/land.ts";
import { number } from "../../../doc/schema/numbers.ts";

export const bench = entry("bench", {
	seed,
	/** Height of a step. */
	everyM: number(0.2, 500),
	/** Share of a step's way that is its riser. */
	riser: number(0.03, 0.95),
	/** How far steps stray from level lines. */
	wander: number(0, 1),
});
