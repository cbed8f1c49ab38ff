import { smoothstep } from "../../maths/functions.ts";
import { fractal2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend } from "./tones.ts";

const TREAD: Rgb = [0.13, 0.145, 0.06];
const WALL: Rgb = [0.2, 0.17, 0.135];

/** Levels that a hillside of any height is cut into. */
const LEVELS = 24;
const RISER = 0.34;

/** A hillside cut into level fields with walls between them. */
export const terraces: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const away = -z + 40 * fractal2(x / 160, z / 160, seed, 3);
		const hill = smoothstep(-10, 4.5 * heightM + 50, away) * (0.8 + 0.35 * fractal2(x / 480, z / 480, seed + 7, 2));
		const v = LEVELS * Math.max(0, hill);
		const k = Math.floor(v);
		return (heightM / LEVELS) * (k + 0.03 * (v - k) + 0.97 * smoothstep(1 - RISER, 1, v - k));
	},
	colour: (x, _y, z, s, steep) =>
		blend(
			blend(TREAD, [0.22, 0.2, 0.09], smoothstep(-0.2, 0.3, fractal2(x / 13, z / 13, s + 41, 4, 0.6))),
			WALL,
			smoothstep(0.3, 0.6, steep),
		),
	mostM: 300,
	stepM: 1,
	says: "A hillside of this height ahead, in twenty-four levels.",
	shownM: 420,
};
