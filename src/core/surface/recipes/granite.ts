import { cloudy, over, scattered, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const granite: Recipe = {
	name: "granite, broken",
	family: "rock",
	sideM: 2,
	made: (seed) => {
		const grains = scattered(190, seed + 1);
		return (u, v, out) => {
			const broken = cloudy(u, v, 4, seed, 6, 0.55);
			const faces = Math.abs(cloudy(u, v, 3, seed + 40, 4));
			const grain = grains(u, v);
			out.heightMm = 26 * broken + 30 * faces + 0.6 * (0.5 - grain.nearest);
			tint(out, [0.2, 0.19, 0.185], [0.36, 0.33, 0.31], 0.5 + 0.9 * broken);
			if (grain.lot < 0.16) over(out, [0.05, 0.05, 0.055], 0.75);
			else if (grain.lot > 0.78) over(out, [0.55, 0.5, 0.46], 0.6);
			over(out, [0.3, 0.22, 0.14], 0.5 * cloudy(u, v, 5, seed + 9, 4));
			out.roughness = 0.8 - 0.25 * grain.lot;
		};
	},
};
