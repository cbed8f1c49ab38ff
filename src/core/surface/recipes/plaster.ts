import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const plaster: Recipe = {
	name: "plaster, coming off",
	family: "plaster and paving",
	found: "wall house white pale lime",
	sideM: 3,
	depthMm: 11,
	grain: "turns",
	made: (p) => {
		const trowel = p.cloudy({ cells: 26, octaves: 4 });
		const fine = p.cloudy({ cells: 200, octaves: 2 });
		const off = p.cloudy({ cells: 4, octaves: 6, gain: 0.55 }).between(0.28, 0.33);
		const under = p.cloudy({ cells: 60, octaves: 4 });
		const heightMm = trowel.times(1.4).plus(9).mixed(under.times(2.2), off).plus(fine.times(0.4));
		const colour = blend([0.58, 0.53, 0.44], [0.72, 0.68, 0.6], p.cloudy({ cells: 5 }).times(0.7).plus(0.5))
			.under([0.33, 0.28, 0.22], off.times(under.times(0.3).plus(0.85)))
			.times(trowel.plus(fine).times(0.05).plus(1));
		return { heightMm, colour, roughness: 0.86 };
	},
};
