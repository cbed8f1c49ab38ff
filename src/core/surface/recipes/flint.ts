import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const flint: Recipe = {
	name: "flint wall",
	family: "masonry",
	found: "black white stone church knapped",
	sideM: 1.8,
	depthMm: 23,
	grain: "turns",
	made: (p) => {
		const stone = p.scattered({ cells: 17, strays: 0.7, at: p.strayed(0.008, 20) });
		const gap = stone.second.minus(stone.nearest);
		const stands = gap.between(0.05, 0.16);
		const face = p.cloudy({ cells: 24, octaves: 4 });
		const rind = gap.between(0.3, 0.16).times(stands);
		const heightMm = stands.times(stone.lot.times(8).plus(12)).plus(face.times(3));
		const colour = blend(
			[0.03, 0.032, 0.036],
			[0.14, 0.14, 0.145],
			stone.lot.times(0.6).plus(face.times(0.5)).plus(0.1),
		)
			.under([0.5, 0.485, 0.45], rind.times(0.75))
			.under([0.44, 0.4, 0.34], stands.from(1));
		return { heightMm, colour, roughness: stands.times(-0.5).plus(0.92) };
	},
};
