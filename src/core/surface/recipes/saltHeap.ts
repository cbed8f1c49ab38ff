import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const saltHeap: Recipe = {
	name: "salt, raked in heaps",
	family: "salt and ice",
	found: "white grains crystal pan",
	sideM: 1,
	depthMm: 19,
	grain: "turns",
	made: (p) => {
		const grain = p.scattered({ cells: 110 });
		const large = p.scattered({ cells: 34, at: p.strayed(0.01, 30) });
		const lump = large.second.minus(large.nearest).times(1.8).round.times(large.lot.between(0.5, 1));
		const heightMm = lump
			.times(9)
			.plus(grain.nearest.from(0.7).times(3))
			.plus(p.cloudy({ cells: 5, octaves: 4 }).times(8));
		const colour = blend([0.66, 0.645, 0.62], [0.88, 0.875, 0.865], grain.lot.times(0.6).plus(lump.times(0.4))).under(
			[0.5, 0.42, 0.34],
			p.cloudy({ cells: 4 }).times(0.5).minus(0.1),
		);
		return { heightMm, colour, roughness: grain.lot.times(0.4).plus(0.35) };
	},
};
