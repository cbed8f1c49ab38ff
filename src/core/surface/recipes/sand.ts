import { sin, TAU } from "../../maths/functions.ts";
import { cloudy, scattered, shade, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const sand: Recipe = {
	name: "sand, rippled by wind",
	family: "ground",
	sideM: 2,
	made: (seed) => {
		const grains = scattered(420, seed + 1);
		return (u, v, out) => {
			const bent = 0.9 * cloudy(u, v, 2, seed, 3) + 0.25 * cloudy(u, v, 7, seed + 2, 2);
			const wave = sin(TAU * (18 * v + bent));
			// Gentle towards the wind, steep behind.
			const ripple = wave + 0.28 * sin(2 * TAU * (18 * v + bent) + 1.2);
			const grain = grains(u, v);
			out.heightMm = 4.2 * ripple * (0.75 + 0.5 * cloudy(u, v, 3, seed + 6, 2)) + 0.25 * grain.lot;
			tint(out, [0.36, 0.28, 0.19], [0.5, 0.41, 0.29], 0.5 + 0.3 * wave + 0.3 * cloudy(u, v, 3, seed + 8, 4));
			shade(out, 0.86 + 0.28 * grain.lot);
			out.roughness = 0.93;
		};
	},
};
