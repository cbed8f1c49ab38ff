/** Height of the ground at a place, metres, as a pure function of preset, seed and height. */
import type { Ground } from "../doc/schema.ts";
import { PRESETS } from "./preset.ts";

/** Height of the ground at (x, z), metres. Deterministic on every engine. */
export const groundHeight = ({ preset, seed, heightM, levelM = 0 }: Ground, x: number, z: number): number =>
	PRESETS[preset].height(x, z, seed, heightM) + levelM;

/** Slope of the ground along x and along z (rise over run) over a reach of half a metre. */
export function groundSlope(ground: Ground, x: number, z: number): { dx: number; dz: number } {
	const e = 0.25;
	return {
		dx: (groundHeight(ground, x + e, z) - groundHeight(ground, x - e, z)) / (2 * e),
		dz: (groundHeight(ground, x, z + e) - groundHeight(ground, x, z - e)) / (2 * e),
	};
}
