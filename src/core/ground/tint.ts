/** Colour and wetness of the ground by preset, slope, height over water and seeded noise. */
import type { Ground, Water } from "../doc/schema.ts";
import { clamp, mix, smoothstep } from "../maths/functions.ts";
import { fractal2, noise2 } from "../maths/noise.ts";

type Rgb = [number, number, number];

const blend = (a: Rgb, b: Rgb, t: number): Rgb => [mix(a[0], b[0], t), mix(a[1], b[1], t), mix(a[2], b[2], t)];

const SALT: Rgb = [0.66, 0.63, 0.58];
const SALT_MUD: Rgb = [0.2, 0.165, 0.13];
const TABLE_ROCK: Rgb = [0.27, 0.18, 0.13];
const EARTH: Rgb = [0.16, 0.12, 0.08];
const DRY_GRASS: Rgb = [0.27, 0.22, 0.11];
const ROCK: Rgb = [0.2, 0.185, 0.17];
const SCREE: Rgb = [0.3, 0.27, 0.23];

/** Base colour (linear) and wetness, 0 to 1, of the ground at a place. `steep` is the sine of its slope. */
export function groundTint(
	ground: Ground,
	water: Water,
	x: number,
	y: number,
	z: number,
	steep: number,
): { colour: Rgb; wet: number } {
	const s = ground.seed;
	let colour: Rgb;
	if (ground.preset === "salt flat") {
		const crust = fractal2(x / 7, z / 7, s + 41, 4, 0.6);
		const fine = noise2(x / 0.45, z / 0.45, s + 43);
		colour = blend(SALT_MUD, SALT, smoothstep(-0.25, 0.3, crust + 0.16 * fine + 6 * y));
		colour = blend(colour, TABLE_ROCK, smoothstep(4, 25, y));
		colour = blend(colour, [0.36, 0.25, 0.18], 0.5 * smoothstep(20, 40, y) * (0.5 + 0.5 * noise2(y / 17, 0.5, s + 47)));
	} else if (ground.preset === "plain") {
		const patch = fractal2(x / 9, z / 9, s + 41, 5, 0.6);
		colour = blend(EARTH, DRY_GRASS, smoothstep(-0.25, 0.25, patch));
	} else {
		const patch = fractal2(x / 30, z / 30, s + 41, 5, 0.6);
		colour = blend(
			blend(DRY_GRASS, EARTH, smoothstep(-0.2, 0.3, patch)),
			blend(SCREE, ROCK, smoothstep(-0.2, 0.2, patch)),
			smoothstep(0.35, 0.6, steep),
		);
	}
	const wet = water.on ? clamp(1 - smoothstep(0.005, 0.06, y - water.levelM), 0, 1) : 0;
	const dark = 1 - 0.5 * wet;
	return { colour: [colour[0] * dark, colour[1] * dark, colour[2] * dark], wet };
}
