import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const crackedMud: Recipe = {
	name: "mud, dried and cracked",
	family: "ground",
	found: "pan lake dry earth brown",
	sideM: 2,
	depthMm: 25,
	grain: "turns",
	made: (p) => {
		const plate = p.scattered({ cells: 9, at: p.strayed(0.02, 9) });
		const gap = plate.second.minus(plate.nearest);
		const lies = gap.between(0.02, 0.1);
		// Plates curl up at their rims.
		const curl = gap.between(0.5, 0.08);
		const heightMm = lies
			.times(curl.times(7).plus(14))
			.plus(plate.lot.times(3))
			.plus(p.cloudy({ cells: 40, octaves: 4 }).times(1.6));
		const pale = plate.lot
			.times(0.5)
			.plus(curl.times(0.4))
			.plus(p.cloudy({ cells: 14, octaves: 4 }).times(0.4));
		const colour = blend([0.27, 0.22, 0.17], [0.4, 0.34, 0.27], pale).times(lies.times(0.7).plus(0.3));
		return { heightMm, colour, roughness: 0.86 };
	},
};
