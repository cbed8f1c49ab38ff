import { smoothstep } from "../../maths/functions.ts";
import { fractal2, noise2 } from "../../maths/noise.ts";
import type { Preset } from "../preset.ts";
import { blend, DRY_GRASS, EARTH } from "./tones.ts";

export const plain: Preset = {
	height: (x, z, seed, heightM) =>
		heightM === 0
			? 0
			: heightM * fractal2(x / 140, z / 140, seed, 4, 0.45) +
				0.02 * Math.min(1, heightM) * noise2(x / 2.3, z / 2.3, seed + 5),
	colour: (x, _y, z, s) => blend(EARTH, DRY_GRASS, smoothstep(-0.25, 0.25, fractal2(x / 9, z / 9, s + 41, 5, 0.6))),
	mostM: 30,
	stepM: 0.1,
	says: "Swells of this height.",
	shownM: 500,
};
