import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const tarpaulin: Recipe = {
	name: "tarpaulin, tarred",
	family: "cloth and glass",
	found: "cover black oil cloth",
	sideM: 1.6,
	depthMm: 26,
	grain: "turns",
	made: (p) => {
		const at = p.strayed(0.06, 4, 4);
		const crease = p.cloudy({ cells: 5, octaves: 4, at }).absolute;
		const fold = crease.between(0.1, 0);
		const heightMm = p.cloudy({ cells: 3, octaves: 4, at }).times(20).plus(fold.times(5));
		const cracks = p.cloudy({ cells: 30, octaves: 3 }).absolute.between(0.03, 0).times(fold.plus(0.2));
		const colour = blend([0.02, 0.021, 0.02], [0.06, 0.062, 0.058], p.cloudy({ cells: 6 }).plus(0.5)).under(
			[0.2, 0.18, 0.15],
			cracks.plus(fold.times(0.25)).times(0.7),
		);
		return { heightMm, colour, roughness: 0.42 };
	},
};
