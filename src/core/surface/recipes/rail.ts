import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const rail: Recipe = {
	name: "iron, rusted through",
	family: "metal",
	found: "rail chain anchor red brown plate",
	sideM: 1,
	depthMm: 4.7,
	grain: "turns",
	made: (p) => {
		const scale = p.cloudy({ cells: 10, octaves: 7, gain: 0.62 });
		const pits = p.scattered({ cells: 70, at: p.strayed(0.008, 40) });
		const pit = pits.nearest.between(0.5, 0.1).times(pits.lot.between(0.5, 0.8));
		const flake = p.cloudy({ cells: 6, octaves: 5 }).between(0.14, 0.18);
		const heightMm = scale.times(2.4).minus(pit.times(1.4)).plus(flake.times(1.2));
		const colour = blend([0.06, 0.024, 0.012], [0.27, 0.1, 0.035], scale.times(0.9).plus(0.42))
			.under([0.035, 0.022, 0.018], pit.times(0.7))
			.under([0.11, 0.055, 0.035], flake.times(0.7));
		return { heightMm, colour, roughness: 0.87 };
	},
};
