import { smoothstep } from "../../maths/functions.ts";
import { fractal2, noise2, ridged2 } from "../../maths/noise.ts";
import type { Preset, Rgb } from "../preset.ts";
import { blend } from "./tones.ts";

const RED: Rgb = [0.33, 0.165, 0.095];
const PALE: Rgb = [0.46, 0.32, 0.21];
const DUST: Rgb = [0.36, 0.25, 0.165];

/** Where the gorge's middle is, to the right, at a distance; the middle of the place lies on its floor. */
const middle = (z: number, seed: number): number =>
	150 * (noise2(z / 420, 0.5, seed) - noise2(0, 0.5, seed)) +
	30 * (noise2(z / 110, 1.5, seed + 3) - noise2(0, 1.5, seed + 3));

/** A gorge with side arms in a tableland, its walls in ledges. */
export const canyon: Preset = {
	height: (x, z, seed, heightM) => {
		if (heightM === 0) return 0;
		const arm = smoothstep(0.62, 0.97, ridged2(x / 520, z / 520, seed + 11, 3, 0.4));
		const bays = 26 * fractal2(x / 90, z / 90, seed + 17, 4, 0.5);
		const out = Math.abs(x - middle(z, seed)) + bays - 30 - 260 * arm * smoothstep(30, 300, Math.abs(x));
		const rise = smoothstep(0, 0.9 * heightM, out);
		const v = 5 * rise + 0.35 * fractal2(x / 150, z / 150, seed + 23, 3);
		const k = Math.floor(v);
		const wall = (k + 0.2 * (v - k) + 0.8 * smoothstep(0.55, 1, v - k)) / 5;
		return heightM * rise * wall + Math.min(1, heightM / 20) * 0.4 * fractal2(x / 15, z / 15, seed + 29, 4);
	},
	colour: (x, y, z, s, steep) => {
		const beds = 0.5 + 0.5 * noise2(y / 9 + 0.6 * fractal2(x / 120, z / 120, s + 43, 2), 0.5, s + 41);
		return blend(DUST, blend(RED, PALE, smoothstep(0.3, 0.75, beds)), smoothstep(0.25, 0.5, steep));
	},
	mostM: 600,
	stepM: 1,
	says: "Walls of this height; the middle of the place lies on the gorge's floor.",
	shownM: 520,
};
