import { smoothstep } from "../../maths/functions.ts";
import { fractal2, noise2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend } from "./tones.ts";

const SAND: Rgb = [0.46, 0.33, 0.19];
const FINE: Rgb = [0.55, 0.42, 0.26];

/** Share of a dune's length that its windward side takes; what falls behind its crest lies at about 32°. */
const WINDWARD = 0.74;
/** Length of a dune in heights. */
const LONG = 6.2;

/** Transverse dunes: a long windward side, a slip face behind the crest (Bagnold 1941). */
export const dunes: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const length = LONG * heightM;
		const bent = 1.1 * fractal2(x / (2.2 * length), z / (2.2 * length), seed, 3, 0.45);
		const turns = (0.86 * x - 0.5 * z) / length + bent;
		const f = turns - Math.floor(turns);
		const crest = f < WINDWARD ? smoothstep(0, WINDWARD, f) : 1 - smoothstep(WINDWARD, 1, f);
		const much = 0.62 + 0.6 * fractal2(x / (1.6 * length), z / (1.6 * length), seed + 7, 2);
		const ripple =
			0.02 * Math.min(1, heightM / 2) * noise2((0.86 * x - 0.5 * z) / 0.16, (0.5 * x + 0.86 * z) / 1.9, seed + 13);
		return heightM * Math.max(0.08, much) * crest + ripple;
	},
	colour: (x, _y, z, s, steep) => blend(SAND, FINE, 0.5 + 0.5 * fractal2(x / 14, z / 14, s + 41, 4) - 0.5 * steep),
	mostM: 120,
	stepM: 0.5,
	says: "Dunes of this height, their slip faces away from the wind.",
	shownM: 320,
};
