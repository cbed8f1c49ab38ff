import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const tuff: Recipe = {
	name: "tuff, weathered in hollows",
	family: "rock",
	found: "soft pale yellow volcanic cave",
	sideM: 3,
	depthMm: 50,
	grain: "turns",
	made: (p) => {
		const hole = p.scattered({ cells: 9, at: p.strayed(0.03, 8) });
		const deep = hole.nearest.between(0.5, 0.15).times(hole.lot.between(0.25, 0.6));
		const clasts = p.scattered({ cells: 60 });
		const clast = clasts.nearest.between(0.34, 0.26).times(clasts.lot.between(0.7, 0.75));
		const rough = p.cloudy({ cells: 10, octaves: 6, gain: 0.55 });
		const heightMm = rough.times(14).minus(deep.times(34)).plus(clast.times(4));
		const colour = blend([0.36, 0.29, 0.2], [0.55, 0.47, 0.35], rough.times(0.9).plus(0.5))
			.under([0.22, 0.16, 0.12], clast.times(0.7))
			.times(deep.times(-0.35).plus(1));
		return { heightMm, colour, roughness: 0.93 };
	},
};
