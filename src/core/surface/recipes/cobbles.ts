import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const cobbles: Recipe = {
	name: "cobbles, worn",
	family: "plaster and paving",
	found: "street square yard stone grey",
	sideM: 2,
	depthMm: 36,
	grain: "turns",
	made: (p) => {
		const stone = p.scattered({ cells: 16, at: p.strayed(0.006, 20) });
		const round = stone.second.minus(stone.nearest).times(2.1).round;
		const rough = p.cloudy({ cells: 70, octaves: 4 });
		const heightMm = round.times(30).plus(stone.lot.times(5)).plus(rough.times(1.4));
		const colour = blend([0.16, 0.15, 0.14], [0.33, 0.31, 0.29], stone.lot.plus(rough.times(0.3)))
			.under([0.13, 0.105, 0.075], round.between(0.75, 0.35))
			.times(rough.times(0.1).plus(1));
		// Feet and wheels have smoothed their crowns.
		return { heightMm, colour, roughness: round.between(0.7, 1).times(-0.35).plus(0.85) };
	},
};
