import { clamp, smoothstep } from "../../maths/functions.ts";
import { fractal2, ridged2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend, DRY_GRASS, EARTH } from "./tones.ts";

const ROCK: Rgb = [0.2, 0.185, 0.17];
const SCREE: Rgb = [0.3, 0.27, 0.23];

/** Crests that keep clear of the middle. */
export const ridges: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const r = Math.sqrt(x * x + z * z);
		const away = smoothstep(30, 700, r);
		const crest = ridged2(x / 900, z / 900, seed, 7, 0.48);
		const swell = fractal2(x / 160, z / 160, seed + 31, 4, 0.5);
		return heightM * (away * clamp(crest * 1.25 - 0.35, 0, 1) + 0.02 * swell * (1 - 0.6 * away));
	},
	colour: (x, _y, z, s, steep) => {
		const patch = fractal2(x / 30, z / 30, s + 41, 5, 0.6);
		return blend(
			blend(DRY_GRASS, EARTH, smoothstep(-0.2, 0.3, patch)),
			blend(SCREE, ROCK, smoothstep(-0.2, 0.2, patch)),
			smoothstep(0.35, 0.6, steep),
		);
	},
	mostM: 1200,
	stepM: 1,
	says: "Crests of this height; the middle of the place stays low.",
	shownM: 1500,
};
