import { smoothstep } from "../../maths/functions.ts";
import { fractal2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend, EARTH } from "./tones.ts";

const SAND: Rgb = [0.4, 0.33, 0.23];
const TURF: Rgb = [0.13, 0.145, 0.06];
const BLUFF: Rgb = [0.3, 0.24, 0.17];

/** How deep the sea is far out, metres. */
const DEEP_M = 14;

/** Sea to the left, a beach that is level zero at the water, a bluff and turf to the right. */
export const coast: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const small = Math.min(1, heightM / 8);
		const out = x + 16 + 34 * fractal2(z / 210, x / 700, seed, 4, 0.45);
		const shelf = out < 0 ? -DEEP_M * smoothstep(0, 420, -out) : 0;
		const beach = 2.1 * smoothstep(-6, 46, out) - 0.5;
		const bluff = smoothstep(38, 44 + 0.9 * heightM, out + 7 * fractal2(x / 28, z / 28, seed + 5, 4));
		const turf = 0.22 * fractal2(x / 170, z / 170, seed + 11, 4) * smoothstep(60, 300, out);
		return small * (shelf + beach) + heightM * bluff * (1 + turf);
	},
	colour: (x, y, z, s, steep) => {
		const patch = fractal2(x / 11, z / 11, s + 41, 5, 0.6);
		const land = blend(SAND, TURF, smoothstep(2.2, 4.5, y + 0.8 * patch));
		return blend(land, blend(BLUFF, EARTH, 0.5 + 0.4 * patch), smoothstep(0.4, 0.62, steep));
	},
	mostM: 160,
	stepM: 0.5,
	says: "A bluff of this height behind a beach; still water at level zero is its sea.",
	shownM: 300,
};
