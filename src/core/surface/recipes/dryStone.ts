import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const dryStone: Recipe = {
	name: "dry stone wall",
	family: "masonry",
	found: "field fence grey stacked",
	sideM: 2.4,
	depthMm: 72,
	grain: "shifts",
	made: (p) => {
		const stone = p.scattered({ cells: 8, along: 20, strays: 0.7, at: p.strayed(0.012, 16) });
		const face = p.cloudy({ cells: 40, octaves: 5 });
		const gap = stone.second.minus(stone.nearest);
		const stands = gap.between(0.02, 0.16);
		const heightMm = stands.times(stone.lot.times(30).plus(36)).plus(face.times(6));
		const colour = blend([0.15, 0.145, 0.14], [0.36, 0.34, 0.31], stone.lot.times(0.7).plus(face.times(0.5)).plus(0.15))
			.under([0.2, 0.21, 0.13], p.cloudy({ cells: 6 }).times(0.9).minus(0.1))
			.times(gap.between(0, 0.12).times(0.9).plus(0.1));
		return { heightMm, colour, roughness: 0.92 };
	},
};
