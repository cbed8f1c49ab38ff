/** Colour and wetness of the ground by preset, slope, height over water and seeded noise. */
import type { Ground, Water } from "../doc/schema.ts";
import { clamp, smoothstep } from "../maths/functions.ts";
import { PRESETS, type Rgb } from "./preset.ts";

/** Base colour (linear) and wetness, 0 to 1, of the ground at a place. `steep` is the sine of its slope. */
export function groundTint(
	ground: Ground,
	water: Water,
	x: number,
	y: number,
	z: number,
	steep: number,
): { colour: Rgb; wet: number } {
	const colour = PRESETS[ground.preset].colour(x, y, z, ground.seed, steep);
	const wet = water.on ? clamp(1 - smoothstep(0.005, 0.06, y - water.levelM), 0, 1) : 0;
	const dark = 1 - 0.5 * wet;
	return { colour: [colour[0] * dark, colour[1] * dark, colour[2] * dark], wet };
}
