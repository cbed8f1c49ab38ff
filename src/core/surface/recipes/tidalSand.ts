import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const tidalSand: Recipe = {
	name: "sand, left by the tide",
	family: "ground",
	found: "beach wet ripples shore flat",
	sideM: 3,
	depthMm: 23,
	grain: "shifts",
	made: (p) => {
		const bent = p
			.cloudy({ cells: 3, octaves: 3 })
			.times(1.1)
			.plus(p.cloudy({ cells: 9, octaves: 2 }).times(0.35));
		const wave = p.here.v.times(30).plus(bent).wave;
		const strong = p.cloudy({ cells: 2, octaves: 3 }).between(-0.3, 0.4);
		const heightMm = wave.times(strong.times(7).plus(1.5)).plus(p.cloudy({ cells: 4, octaves: 3 }).times(9));
		const low = heightMm.between(0, -8);
		const colour = blend([0.21, 0.165, 0.115], [0.34, 0.28, 0.205], wave.times(0.2).plus(0.5)).times(
			low.times(-0.35).plus(1),
		);
		return { heightMm, colour, roughness: low.times(-0.55).plus(0.8) };
	},
};
