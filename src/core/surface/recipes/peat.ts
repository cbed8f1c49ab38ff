import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const peat: Recipe = {
	name: "peat, cut",
	family: "ground",
	found: "bog moor black dark wet",
	sideM: 2,
	depthMm: 21,
	grain: "shifts",
	made: (p) => {
		const cut = p.cloudy({ cells: 2, along: 14, octaves: 3 });
		const fibre = p.cloudy({ cells: 30, along: 180, octaves: 2 });
		const roots = p.cloudy({ cells: 12, along: 20, octaves: 3 }).absolute.between(0.03, 0);
		const heightMm = cut
			.times(16)
			.plus(fibre.times(2.5))
			.plus(roots.times(4))
			.plus(p.cloudy({ cells: 8 }).times(7));
		const colour = blend(
			[0.02, 0.014, 0.011],
			[0.085, 0.058, 0.04],
			cut.times(0.7).plus(fibre.times(0.4)).plus(0.45),
		).under([0.2, 0.14, 0.09], roots.times(0.6));
		return { heightMm, colour, roughness: 0.85 };
	},
};
