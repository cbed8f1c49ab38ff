import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const clay: Recipe = {
	name: "clay, smoothed by water",
	family: "ground",
	found: "red bank pit smooth",
	sideM: 2,
	depthMm: 17,
	grain: "turns",
	made: (p) => {
		const flow = p.cloudy({ cells: 3, octaves: 5 });
		const crack = p.scattered({ cells: 5, at: p.strayed(0.04, 6) });
		const line = crack.second
			.minus(crack.nearest)
			.between(0.035, 0)
			.times(p.cloudy({ cells: 4, octaves: 2 }).between(-0.1, 0.2));
		const heightMm = flow
			.times(14)
			.plus(p.cloudy({ cells: 40, octaves: 3 }).times(1))
			.minus(line.times(7));
		const colour = blend([0.27, 0.13, 0.08], [0.42, 0.24, 0.16], flow.times(0.8).plus(0.5)).under(
			[0.12, 0.06, 0.04],
			line.times(0.7),
		);
		return { heightMm, colour, roughness: flow.times(0.2).plus(0.62) };
	},
};
