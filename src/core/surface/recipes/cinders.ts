import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const cinders: Recipe = {
	name: "ash and cinders",
	family: "ground",
	found: "burnt black grey coal yard",
	sideM: 1.5,
	depthMm: 15,
	grain: "turns",
	made: (p) => {
		const cinder = p.scattered({ cells: 60, at: p.strayed(0.006, 50) });
		const lump = cinder.second.minus(cinder.nearest).times(1.9).round.times(cinder.lot.between(0.3, 0.9));
		const ash = p.cloudy({ cells: 5, octaves: 5 }).between(-0.1, 0.3);
		const heightMm = lump
			.times(ash.times(-8).plus(14))
			.plus(ash.times(5))
			.plus(p.cloudy({ cells: 130, octaves: 2 }).times(0.8));
		const colour = blend([0.03, 0.028, 0.027], [0.12, 0.1, 0.09], cinder.lot)
			.under([0.3, 0.29, 0.28], ash.times(lump.times(-0.6).plus(0.9)))
			.under([0.22, 0.09, 0.05], cinder.lot.between(0.9, 0.94).times(lump).times(0.6));
		return { heightMm, colour, roughness: ash.times(0.15).plus(0.78) };
	},
};
