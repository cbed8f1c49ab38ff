import { smoothstep } from "../../maths/functions.ts";
import { fractal2, noise2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend } from "./tones.ts";

/** Where the tablelands begin and where they stand in full, metres from the middle of the place. */
const TABLELAND = [3800, 6200] as const;

const SALT: Rgb = [0.66, 0.63, 0.58];
const SALT_MUD: Rgb = [0.2, 0.165, 0.13];
const TABLE_ROCK: Rgb = [0.27, 0.18, 0.13];

export const saltFlat: Preset = {
	height: (x, z, seed, heightM) => {
		let y = 0.035 * fractal2(x / 19, z / 19, seed, 3) + 0.012 * noise2(x / 1.7, z / 1.7, seed + 3) - 0.02;
		const r = Math.sqrt(x * x + z * z);
		if (heightM > 0 && r > TABLELAND[0]) {
			const rise = smoothstep(TABLELAND[0], TABLELAND[1], r);
			const broad = 0.5 + 0.5 * fractal2(x / 4200, z / 4200, seed + 11, 4, 0.5);
			const table = smoothstep(0.46, 0.53, broad) * 0.62 + smoothstep(0.57, 0.62, broad) * 0.38;
			const apron = smoothstep(0.3, 0.52, broad) * 0.16;
			const cut = 0.06 * fractal2(x / 520, z / 520, seed + 23, 4) + 0.02 * noise2(x / 130, z / 130, seed + 29);
			y += heightM * rise * Math.max(0, table + apron + cut * (0.25 + table));
		}
		return y;
	},
	colour: (x, y, z, s) => {
		const crust = fractal2(x / 7, z / 7, s + 41, 4, 0.6);
		const fine = noise2(x / 0.45, z / 0.45, s + 43);
		const flat = blend(SALT_MUD, SALT, smoothstep(-0.25, 0.3, crust + 0.16 * fine + 6 * y));
		const high = blend(flat, TABLE_ROCK, smoothstep(4, 25, y));
		return blend(high, [0.36, 0.25, 0.18], 0.5 * smoothstep(20, 40, y) * (0.5 + 0.5 * noise2(y / 17, 0.5, s + 47)));
	},
	mostM: 1200,
	stepM: 1,
	says: "Level for four kilometres; tablelands of this height beyond.",
	shownM: 9000,
};
