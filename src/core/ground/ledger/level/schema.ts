import { entry } from "../../../doc/schema/land.ts";
import { metres, number } from "../../../doc/schema/numbers.ts";

export const level = entry("level", {
	/** Place, and how far about it all is level. */
	x: metres,
	z: metres,
	radiusM: number(0.5, 20_000),
	/** Way on which it goes over into the land. */
	featherM: number(0.1, 20_000),
	atM: number(-1000, 4000),
});
