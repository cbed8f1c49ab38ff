import { smoothstep } from "../../maths/functions.ts";
import { fractal2, noise2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend, DRY_GRASS, EARTH } from "./tones.ts";

const SHINGLE: Rgb = [0.27, 0.25, 0.22];
const MEADOW: Rgb = [0.12, 0.15, 0.055];
const ROCK: Rgb = [0.19, 0.175, 0.16];

/** Half of the river's bed and of the meadow beside it, metres. */
const BED_M = 7;
const MEADOW_M = 46;

/** Where the river's middle is, to the right, at a distance; it passes beside the middle of the place. */
const middle = (z: number, seed: number): number =>
	26 + 55 * (noise2(z / 310, 0.5, seed) - noise2(0, 0.5, seed)) + 9 * noise2(z / 74, 3.5, seed + 3);

/** A valley that winds away: a bed with banks, a meadow, sides that rise. */
export const riverValley: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const small = Math.min(1, heightM / 20);
		const far = Math.abs(x - middle(z, seed));
		const bed = -1.5 * (1 - smoothstep(BED_M - 3, BED_M + 2.5, far));
		const side = smoothstep(MEADOW_M, MEADOW_M + 4.5 * heightM, far + 30 * fractal2(x / 180, z / 180, seed + 9, 3));
		const uneven = 0.14 * fractal2(x / 260, z / 260, seed + 17, 5, 0.5);
		return heightM * side * (0.86 + uneven) + small * (bed + 0.25 * fractal2(x / 21, z / 21, seed + 5, 3));
	},
	colour: (x, y, z, s, steep) => {
		const patch = fractal2(x / 18, z / 18, s + 41, 5, 0.6);
		const grown = blend(
			MEADOW,
			blend(DRY_GRASS, EARTH, smoothstep(-0.1, 0.3, patch)),
			smoothstep(2, 30, y + 6 * patch),
		);
		return blend(
			blend(grown, SHINGLE, 1 - smoothstep(-1.1, -0.3, y)),
			ROCK,
			smoothstep(0.5, 0.72, steep + 0.15 * patch),
		);
	},
	mostM: 600,
	stepM: 1,
	says: "Sides of this height; the river's bed passes beside the middle of the place.",
	shownM: 420,
};
