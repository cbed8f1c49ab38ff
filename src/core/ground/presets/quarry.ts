import { clamp, smoothstep } from "../../maths/functions.ts";
import { fractal2, noise2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend } from "./tones.ts";

const SLATE: Rgb = [0.062, 0.068, 0.082];
const PALE: Rgb = [0.135, 0.142, 0.158];
const IRON: Rgb = [0.135, 0.092, 0.062];
const RUBBLE: Rgb = [0.072, 0.074, 0.081];
const FERN: Rgb = [0.135, 0.07, 0.028];
const MOSS: Rgb = [0.064, 0.076, 0.03];

/** Half the width of the floor, and how far it goes on ahead, metres. */
const HALF_M = 36;
const BACK_M = 92;
/** Galleries one over the other, and how wide they are beside the floor and at its head. */
const GALLERIES = 7;
const TREAD_M = 12;
const HEAD_TREAD_M = 25;
/** A wall goes back by this share of its height. */
const LEANS = 1 / 8;
/** How high waste lies at the foot of a wall, as a share of it. */
const WASTE = 0.34;

/** A slate quarry: a floor that is open towards the lens, and galleries that step back from it to both sides and ahead. */
export const quarry: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const small = Math.min(1, heightM / 20);
		const ahead = Math.max(0, HALF_M - BACK_M - z) * 0.62;
		const across = x + 9 * fractal2(z / 70, 0.5, seed, 3);
		const far = Math.sqrt(across * across + ahead * ahead);
		const away = far - HALF_M + 11 * fractal2(x / 46, z / 46, seed + 7, 4, 0.48);
		const floor = 0.5 * small * fractal2(x / 9, z / 9, seed + 29, 4);
		if (away <= 0) return floor;
		const tread = TREAD_M + (HEAD_TREAD_M - TREAD_M) * (ahead / far);
		const step = heightM / GALLERIES;
		const v = away / tread + 0.34 * smoothstep(0, 8, away) * noise2(x / 95, z / 95, seed + 13);
		const most = Math.min(GALLERIES, Math.max(0, v));
		const k = Math.min(GALLERIES - 1, Math.floor(most));
		const f = most - k;
		const wide = Math.min(0.8, (step * LEANS) / tread);
		const patch = smoothstep(-0.12, 0.3, fractal2(x / 21, z / 21, seed + 17, 3));
		const waste = k < GALLERIES - 1 ? WASTE * patch * smoothstep(0.62, 1, f) * (1 - smoothstep(0.985, 1, f)) : 0;
		const cut = k + smoothstep(0, wide, f) + 0.05 * f + waste;
		// Over the uppermost wall lies the hill that was there before.
		const behind = v - most;
		const hill =
			0.05 + (1.9 * behind) / (behind + 12) + 0.3 * smoothstep(0, 6, behind) * fractal2(x / 160, z / 160, seed + 23, 4);
		const rise = most < GALLERIES ? cut : GALLERIES + Math.max(0, hill);
		// Towards the lens and behind it the walls come down.
		const open = 1 - 0.82 * smoothstep(10, 150, z);
		return (
			floor * (1 - smoothstep(0, 4, away)) + step * open * rise + 0.35 * small * fractal2(x / 5, z / 5, seed + 31, 3)
		);
	},
	colour: (x, y, z, s, steep) => {
		const grain = fractal2(x / 7, z / 7, s + 41, 4, 0.6);
		const beds = noise2(y / 5 + 0.5 * grain, 0.5 + x / 60, s + 43);
		const seep = smoothstep(0.25, 0.6, fractal2(x / 14, z / 14, s + 47, 3) + 0.2 * beds);
		const wall = blend(blend(SLATE, PALE, clamp(0.34 + 0.6 * beds + 0.25 * grain, 0, 1)), IRON, 0.7 * seep);
		const grown = smoothstep(-0.08, 0.22, fractal2(x / 26, z / 26, s + 53, 4, 0.55));
		const kind = smoothstep(-0.15, 0.2, fractal2(x / 11, z / 11, s + 59, 3));
		const tread = blend(RUBBLE, blend(MOSS, FERN, kind), 0.85 * grown);
		return blend(tread, wall, smoothstep(0.45, 0.72, steep + 0.08 * grain));
	},
	mostM: 240,
	stepM: 1,
	says: "Galleries to this height about a floor; the middle of the place lies on it.",
	shownM: 190,
};
