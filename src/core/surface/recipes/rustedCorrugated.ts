import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const rustedCorrugated: Recipe = {
	name: "corrugated sheet, rusted",
	family: "metal",
	found: "roof shed tin brown old wall",
	sideM: 2,
	depthMm: 20,
	grain: { blocks: 1 },
	made: (p) => {
		const fold = p.here.u.times(26).wave;
		const eaten = p.cloudy({ cells: 5, octaves: 6, gain: 0.58 }).plus(fold.times(0.05));
		const rust = eaten.between(-0.25, 0.15);
		const scale = p.cloudy({ cells: 70, octaves: 4, gain: 0.6 });
		const heightMm = fold
			.times(9)
			.plus(rust.times(scale).times(0.9))
			.plus(p.cloudy({ cells: 5, octaves: 3 }).times(2));
		const brown = blend([0.1, 0.036, 0.014], [0.27, 0.1, 0.035], scale.times(0.9).plus(0.5));
		const colour = blend([0.38, 0.385, 0.385], [0.52, 0.525, 0.525], scale.plus(0.5)).under(brown, rust);
		return { heightMm, colour, roughness: rust.times(0.38).plus(0.46), metal: rust.from(1).times(0.85) };
	},
};
