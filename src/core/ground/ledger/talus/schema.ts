import { entry, worn } from "../../../doc/schema/land.ts";
import { number } from "../../../doc/schema/numbers.ts";

export const talus = entry("talus", {
	...worn,
	/** Angle of repose: nothing stays steeper. */
	restDeg: number(5, 80),
	/** How round edges have become. */
	rounded: number(0, 1),
});
