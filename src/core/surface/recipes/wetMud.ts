import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const wetMud: Recipe = {
	name: "mud, trodden",
	family: "ground",
	found: "bank river shore brown tide wet",
	sideM: 2,
	depthMm: 48,
	grain: "turns",
	made: (p) => {
		const trodden = p.scattered({ cells: 8, at: p.strayed(0.03, 9) });
		const foot = trodden.nearest.between(0.42, 0.22).times(trodden.lot.between(0.3, 0.5));
		const rim = trodden.nearest
			.between(0.6, 0.46)
			.times(trodden.nearest.between(0.36, 0.46))
			.times(trodden.lot.between(0.3, 0.5));
		const soft = p.cloudy({ cells: 6, octaves: 6, gain: 0.5 });
		const heightMm = soft.times(18).minus(foot.times(24)).plus(rim.times(9));
		const wet = heightMm.between(2, -16);
		const colour = blend([0.085, 0.064, 0.046], [0.19, 0.15, 0.11], soft.plus(0.55)).times(wet.times(-0.35).plus(1));
		return { heightMm, colour, roughness: wet.times(-0.5).plus(0.72) };
	},
};
