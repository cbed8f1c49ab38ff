import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const snow: Recipe = {
	name: "snow, fresh",
	family: "salt and ice",
	found: "white winter soft",
	sideM: 3,
	depthMm: 31,
	thickMm: 90,
	grain: "turns",
	made: (p) => {
		const drift = p.cloudy({ cells: 3, octaves: 4, gain: 0.4 });
		const heightMm = drift.times(34).plus(p.cloudy({ cells: 180, octaves: 2 }).times(0.7));
		const colour = blend([0.8, 0.82, 0.85], [0.88, 0.885, 0.89], drift.times(0.4).plus(0.6));
		return { heightMm, colour, roughness: 0.78 };
	},
};
