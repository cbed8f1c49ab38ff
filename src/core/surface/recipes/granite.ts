import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const granite: Recipe = {
	name: "granite, broken",
	family: "rock",
	found: "grey rock mountain coast stone",
	sideM: 2,
	depthMm: 32,
	grain: "turns",
	made: (p) => {
		const grain = p.scattered({ cells: 190 });
		const broken = p.cloudy({ cells: 4, octaves: 6, gain: 0.55 });
		const faces = p.cloudy({ cells: 3, octaves: 4 }).absolute;
		const heightMm = broken.times(26).plus(faces.times(30)).minus(grain.nearest.times(0.6));
		const colour = blend([0.2, 0.19, 0.185], [0.36, 0.33, 0.31], broken.times(0.9).plus(0.5))
			.under([0.05, 0.05, 0.055], grain.lot.between(0.17, 0.15).times(0.75))
			.under([0.55, 0.5, 0.46], grain.lot.between(0.77, 0.79).times(0.6))
			.under([0.3, 0.22, 0.14], p.cloudy({ cells: 5, octaves: 4 }).times(0.5));
		return { heightMm, colour, roughness: grain.lot.times(-0.25).plus(0.8) };
	},
};
