import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const ice: Recipe = {
	name: "ice, cracked",
	family: "salt and ice",
	found: "frozen lake blue clear winter",
	sideM: 3,
	depthMm: 5.6,
	grain: "turns",
	made: (p) => {
		const plate = p.scattered({ cells: 4, at: p.strayed(0.03, 7) });
		const crack = plate.second.minus(plate.nearest).between(0.03, 0);
		const fine = p.scattered({ cells: 11, at: p.strayed(0.03, 12) });
		const hair = fine.second.minus(fine.nearest).between(0.022, 0).times(fine.lot.between(0.4, 0.6));
		const white = p.cloudy({ cells: 3, octaves: 5 }).between(0, 0.5);
		const heightMm = crack
			.times(3)
			.plus(p.cloudy({ cells: 4, octaves: 3 }).times(2))
			.plus(white.times(0.8))
			.plus(hair.times(0.5));
		const colour = blend([0.12, 0.2, 0.24], [0.3, 0.4, 0.44], p.cloudy({ cells: 5 }).plus(0.4))
			.under([0.72, 0.77, 0.79], crack.atLeast(hair.times(0.7)).times(0.85))
			.under([0.66, 0.7, 0.72], white.times(0.8));
		return { heightMm, colour, roughness: white.times(0.35).plus(0.08) };
	},
};
