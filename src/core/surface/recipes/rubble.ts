import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const rubble: Recipe = {
	name: "rubble wall, in lime",
	family: "masonry",
	found: "stone wall old castle rough",
	sideM: 3,
	depthMm: 45,
	grain: "turns",
	made: (p) => {
		const stone = p.scattered({ cells: 11, at: p.strayed(0.02, 14) });
		const face = p.cloudy({ cells: 30, octaves: 5, gain: 0.55 });
		const stands = stone.second.minus(stone.nearest).plus(face.times(0.06)).between(0.05, 0.2);
		const heightMm = stands.times(stone.lot.times(22).plus(16)).plus(face.times(7));
		const colour = blend(
			[0.2, 0.185, 0.165],
			[0.42, 0.385, 0.335],
			stone.lot.times(0.8).plus(face.times(0.4)).plus(0.1),
		)
			.under([0.28, 0.19, 0.13], stone.lot.between(0.72, 0.76).times(stone.lot.between(0.9, 0.86)).times(0.7))
			.under([0.5, 0.47, 0.41], stands.from(1).times(0.9));
		return { heightMm, colour, roughness: 0.9 };
	},
};
