import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const turf: Recipe = {
	name: "turf, cropped",
	family: "grown",
	found: "grass meadow green lawn field",
	sideM: 1.5,
	depthMm: 33,
	thickMm: 35,
	grain: "turns",
	made: (p) => {
		const tuft = p.scattered({ cells: 26, at: p.strayed(0.02, 22) });
		const blades = p.cloudy({ cells: 150, along: 60, octaves: 3, at: p.strayed(0.03, 14, 2) });
		const across = p.cloudy({ cells: 60, along: 150, octaves: 3, at: p.strayed(0.03, 14, 2) });
		const high = tuft.nearest.between(0.8, 0.1);
		const grass = blades.atLeast(across);
		const heightMm = high
			.times(14)
			.plus(grass.times(16))
			.plus(p.cloudy({ cells: 4, octaves: 3 }).times(6));
		const colour = blend([0.022, 0.035, 0.01], [0.12, 0.17, 0.04], grass.times(0.9).plus(high.times(0.35)).plus(0.2))
			.under([0.24, 0.2, 0.09], tuft.lot.between(0.7, 0.95).times(grass.plus(0.4)).times(0.7))
			.times(p.cloudy({ cells: 2, octaves: 4 }).times(0.3).plus(1));
		return { heightMm, colour, roughness: 0.85 };
	},
};
