import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const charredWood: Recipe = {
	name: "wood, charred",
	family: "wood",
	found: "burnt black fire",
	sideM: 1,
	depthMm: 9.8,
	grain: "shifts",
	made: (p) => {
		const at = p.strayed(0.02, 8);
		const block = p.scattered({ cells: 9, along: 20, strays: 0.6, at });
		const gap = block.second.minus(block.nearest);
		const stands = gap.between(0, 0.2);
		const grain = p.cloudy({ cells: 6, along: 120, octaves: 3, at });
		const heightMm = stands.times(8).plus(grain.times(1.4));
		const colour = blend([0.012, 0.012, 0.012], [0.05, 0.05, 0.052], stands.times(0.6).plus(grain.times(0.4))).under(
			[0.3, 0.29, 0.28],
			p.cloudy({ cells: 5, octaves: 5 }).between(0.2, 0.5).times(0.5),
		);
		return { heightMm, colour, roughness: 0.58 };
	},
};
