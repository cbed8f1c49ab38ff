import { clamp, smoothstep } from "../../maths/functions.ts";
import { fractal2, ridged2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend } from "./tones.ts";

const HEATHER: Rgb = [0.095, 0.062, 0.05];
const BENT: Rgb = [0.21, 0.17, 0.085];
const PEAT: Rgb = [0.045, 0.033, 0.026];

/** Broad backs, hummocks, and channels that water has cut into the peat. */
export const moor: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const small = Math.min(1, heightM / 10);
		const back = fractal2(x / 620, z / 620, seed, 4, 0.38);
		const hummock = fractal2(x / 5.5, z / 5.5, seed + 11, 3, 0.5);
		const channel = ridged2(x / 46, z / 46, seed + 23, 3, 0.45);
		return heightM * 0.75 * back + small * (0.22 * hummock - 0.9 * smoothstep(0.72, 0.92, channel));
	},
	colour: (x, _y, z, s, steep) => {
		const patch = fractal2(x / 24, z / 24, s + 41, 5, 0.62);
		const wear = ridged2(x / 46, z / 46, s + 23, 3, 0.45);
		const grown = blend(HEATHER, BENT, smoothstep(-0.22, 0.26, patch));
		return blend(grown, PEAT, clamp(smoothstep(0.74, 0.88, wear) + 0.6 * smoothstep(0.3, 0.6, steep), 0, 1));
	},
	mostM: 200,
	stepM: 0.5,
	says: "Backs of this height, hummocks, and channels in the peat.",
	shownM: 700,
};
