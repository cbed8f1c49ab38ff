import { entry, GroundPreset, Laying, seed } from "../../../doc/schema/land.ts";
import { metres, number } from "../../../doc/schema/numbers.ts";

export const behind = entry("behind", {
	preset: GroundPreset,
	seed,
	/** Height of its crests, and of its foot over the land's own level. */
	heightM: number(0, 12_000),
	footM: number(-4000, 4000),
	/** So many times as large as the preset is, both ways. */
	times: number(0.05, 50),
	/** Place that it lies about, how far from it the land is left alone, and the way on which that goes over into it. */
	x: metres,
	z: metres,
	radiusM: number(1, 1e5),
	featherM: number(0.1, 1e5),
	how: Laying,
});
