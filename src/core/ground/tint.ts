/** Colour and wetness of the ground by preset, slope, height over water and seeded noise. */
import type { Ground, Water } from "../doc/schema.ts";
import { clamp, smoothstep } from "../maths/functions.ts";
import { landColours, waterInLand } from "./height.ts";
import { PRESETS, type Rgb } from "./preset.ts";
import { blend } from "./presets/tones.ts";

/** Base colour (linear) and wetness, 0 to 1, of the ground at a place. `steep` is the sine of its slope. */
export function groundTint(
	ground: Ground,
	water: Water,
	x: number,
	y: number,
	z: number,
	steep: number,
): { colour: Rgb; wet: number } {
	let colour = PRESETS[ground.preset].colour(x, y, z, ground.seed, steep);
	for (const colourAt of landColours(ground)) {
		const laid = colourAt(x, y - (ground.levelM ?? 0), z, steep);
		if (laid) colour = blend(colour, laid.colour, laid.share);
	}
	const wetUnder = (level: number) => clamp(1 - smoothstep(0.005, 0.06, y - level), 0, 1);
	const inLand = waterInLand(ground, x, z);
	const wet = Math.max(water.on ? wetUnder(water.levelM) : 0, inLand === null ? 0 : wetUnder(inLand));
	const dark = 1 - 0.5 * wet;
	return { colour: [colour[0] * dark, colour[1] * dark, colour[2] * dark], wet };
}
