import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const furrows: Recipe = {
	name: "earth, ploughed",
	family: "ground",
	found: "field farm furrow brown",
	sideM: 3,
	depthMm: 115,
	grain: "shifts",
	made: (p) => {
		const wander = p.cloudy({ cells: 3, octaves: 2 }).times(0.012);
		const turn = p.here.v.plus(wander).times(9).wave;
		const clod = p.scattered({ cells: 44, at: p.strayed(0.01, 30) });
		const crumbs = clod.second.minus(clod.nearest).times(1.7).round.times(clod.lot);
		const heightMm = turn
			.times(42)
			.plus(crumbs.times(26))
			.plus(p.cloudy({ cells: 20, octaves: 4 }).times(8));
		const colour = blend([0.07, 0.05, 0.036], [0.2, 0.15, 0.105], crumbs.times(0.5).plus(turn.times(0.25)).plus(0.3));
		return { heightMm, colour, roughness: 0.94 };
	},
};
