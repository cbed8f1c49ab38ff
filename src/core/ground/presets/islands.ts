import { smoothstep } from "../../maths/functions.ts";
import { fractal2, ridged2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend } from "./tones.ts";

const ROCK: Rgb = [0.2, 0.19, 0.18];
const SAND: Rgb = [0.38, 0.32, 0.23];
const SCRUB: Rgb = [0.1, 0.12, 0.05];

/** Islands in a sea that is level zero; the middle of the place lies on one. */
export const islands: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const here = 1 - smoothstep(40, 260, Math.sqrt(x * x + z * z));
		const broad = 0.5 + 0.5 * fractal2(x / 900, z / 900, seed, 4, 0.5);
		const lies = smoothstep(0.5, 0.82, broad);
		const crest = ridged2(x / 340, z / 340, seed + 7, 5, 0.5);
		const low =
			Math.min(heightM, 3) *
			(here + 0.6 * smoothstep(0.47, 0.52, broad) + 0.25 * fractal2(x / 60, z / 60, seed + 3, 4));
		return heightM * lies * (0.35 + 0.75 * crest) * (1 - 0.85 * here) - 0.16 * heightM * (1 - here) + low;
	},
	colour: (x, y, z, s, steep) => {
		const patch = fractal2(x / 16, z / 16, s + 41, 5, 0.6);
		const land = blend(SAND, SCRUB, smoothstep(1.2, 4, y + 1.2 * patch));
		return blend(land, ROCK, smoothstep(0.38, 0.62, steep + 0.1 * patch));
	},
	mostM: 400,
	stepM: 1,
	says: "Crests of this height; still water at level zero is their sea.",
	shownM: 1400,
};
