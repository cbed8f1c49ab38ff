import { smoothstep } from "../../maths/functions.ts";
import { fractal2, ridged2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend, DRY_GRASS, EARTH } from "./tones.ts";

const ROCK: Rgb = [0.26, 0.23, 0.2];
const SCREE: Rgb = [0.31, 0.28, 0.245];

/** Where the wall stands, metres ahead of the middle of the place. */
const WALL_M = 170;

/** A wall of rock ahead: buttresses and gullies, scree at its foot, a plateau above. */
export const cliffs: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const small = Math.min(1, heightM / 20);
		const gully = ridged2(x / (0.5 * heightM + 20), z / (1.4 * heightM + 40), seed + 5, 4, 0.5);
		const ahead = -z - WALL_M + 110 * fractal2(x / 420, z / 900, seed, 3) - 0.34 * heightM * gully;
		const scree = 0.24 * smoothstep(-0.75 * heightM, 0.02 * heightM, ahead);
		const lower = 0.44 * smoothstep(0, 0.13 * heightM, ahead);
		const upper = 0.32 * smoothstep(0.2 * heightM, 0.3 * heightM, ahead);
		const top = 0.05 * smoothstep(0, 900, ahead) * fractal2(x / 240, z / 240, seed + 13, 4);
		return heightM * (scree + lower + upper + top) + small * 0.5 * fractal2(x / 17, z / 17, seed + 9, 4);
	},
	colour: (x, _y, z, s, steep) => {
		const patch = fractal2(x / 22, z / 22, s + 41, 5, 0.6);
		const grown = blend(DRY_GRASS, EARTH, smoothstep(-0.2, 0.3, patch));
		return blend(blend(grown, SCREE, smoothstep(0.28, 0.45, steep + 0.12 * patch)), ROCK, smoothstep(0.6, 0.78, steep));
	},
	mostM: 500,
	stepM: 1,
	says: "A wall of this height 170 m ahead, scree at its foot.",
	shownM: 460,
};
