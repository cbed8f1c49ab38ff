import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const corrugated: Recipe = {
	name: "corrugated sheet, zinc",
	family: "metal",
	found: "roof shed tin grey metal wall",
	sideM: 2,
	depthMm: 20,
	grain: { blocks: 1 },
	made: (p) => {
		const fold = p.here.u.times(26).wave;
		const dull = p.cloudy({ cells: 9, octaves: 5 });
		const dent = p.cloudy({ cells: 5, octaves: 3 });
		const spangle = p.scattered({ cells: 60 });
		const heightMm = fold.times(9).plus(dent.times(2));
		const colour = blend(
			[0.4, 0.41, 0.415],
			[0.6, 0.61, 0.62],
			spangle.lot.times(0.5).plus(dull.times(0.5)).plus(0.25),
		).under([0.55, 0.55, 0.54], dull.between(0.1, 0.5));
		return {
			heightMm,
			colour,
			roughness: dull.times(0.3).plus(0.45),
			metal: dull.between(0.5, 0).times(0.6).plus(0.4),
		};
	},
};
