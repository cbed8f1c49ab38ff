import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const oakBark: Recipe = {
	name: "bark, furrowed",
	family: "grown",
	found: "oak tree trunk wood brown",
	sideM: 1.2,
	depthMm: 34,
	grain: "shifts",
	made: (p) => {
		const at = p.strayed(0.05, 5);
		const plate = p.scattered({ cells: 18, along: 5, strays: 0.9, at });
		const gap = plate.second.minus(plate.nearest);
		const stands = gap.between(0.02, 0.34);
		const fibre = p.cloudy({ cells: 120, along: 12, octaves: 3, at });
		const heightMm = stands.times(26).plus(fibre.times(4)).plus(plate.lot.times(4));
		const colour = blend(
			[0.035, 0.027, 0.021],
			[0.2, 0.16, 0.125],
			stands.times(0.7).plus(fibre.times(0.4)).plus(0.1),
		).under([0.12, 0.16, 0.07], p.cloudy({ cells: 3, along: 2 }).times(0.9).minus(0.15).times(stands));
		return { heightMm, colour, roughness: 0.93 };
	},
};
