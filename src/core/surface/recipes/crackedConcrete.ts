import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const crackedConcrete: Recipe = {
	name: "concrete floor, cracked",
	family: "plaster and paving",
	found: "grey yard slab floor old",
	sideM: 4,
	depthMm: 14,
	grain: "turns",
	made: (p) => {
		const plate = p.scattered({ cells: 3, at: p.strayed(0.04, 9, 5) });
		const crack = plate.second.minus(plate.nearest).between(0.012, 0.002);
		const fine = p.scattered({ cells: 8, at: p.strayed(0.03, 16, 4) });
		const hair = fine.second.minus(fine.nearest).between(0.01, 0).times(fine.lot.between(0.55, 0.6));
		const sand = p.cloudy({ cells: 160, octaves: 2 });
		const worn = p.cloudy({ cells: 4, octaves: 6, gain: 0.55 });
		const heightMm = worn.times(5).plus(sand.times(0.7)).minus(crack.times(9)).minus(hair.times(2));
		const colour = blend([0.23, 0.225, 0.215], [0.38, 0.37, 0.35], worn.times(0.9).plus(sand.times(0.3)).plus(0.5))
			.under([0.05, 0.045, 0.04], crack.atLeast(hair.times(0.7)).times(0.9))
			.under([0.13, 0.12, 0.11], p.cloudy({ cells: 6 }).between(0.2, 0.45).times(0.6));
		return { heightMm, colour, roughness: 0.8 };
	},
};
