import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const rustedIron: Recipe = {
	name: "iron, painted and rusted",
	family: "metal",
	found: "paint green plate door boat",
	sideM: 1.5,
	depthMm: 2.7,
	grain: "turns",
	made: (p) => {
		const far = p.cloudy({ cells: 4, octaves: 6, gain: 0.58 });
		const off = far.between(0, 0.1);
		const scale = p.cloudy({ cells: 60, octaves: 5, gain: 0.6 });
		const blister = far.between(-0.16, 0).times(off.from(1));
		const heightMm = blister.times(1.2).plus(1.6).mixed(scale.times(0.9).plus(0.6), off);
		const rust = blend([0.14, 0.045, 0.015], [0.3, 0.105, 0.035], scale.times(0.9).plus(0.5));
		const colour = blend([0.06, 0.12, 0.115], [0.09, 0.17, 0.16], p.cloudy({ cells: 7, octaves: 4 }).plus(0.5))
			.under(rust, off.atLeast(blister.times(0.35)))
			.times(scale.times(0.1).plus(1));
		return { heightMm, colour, roughness: off.times(0.45).plus(blister.times(0.1)).plus(0.42) };
	},
};
