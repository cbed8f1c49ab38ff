import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const seaweed: Recipe = {
	name: "weed below the tide line",
	family: "grown",
	found: "sea dock quay green slime wet harbour",
	sideM: 1.5,
	depthMm: 24,
	thickMm: 30,
	grain: "shifts",
	made: (p) => {
		const at = p.strayed(0.03, 6);
		const hang = p.cloudy({ cells: 46, along: 7, octaves: 4, gain: 0.6, at });
		const clump = p.cloudy({ cells: 6, octaves: 4 });
		const heightMm = hang.absolute.times(26).plus(clump.times(10));
		const colour = blend(
			[0.016, 0.022, 0.01],
			[0.1, 0.115, 0.035],
			hang.times(0.9).plus(clump.times(0.5)).plus(0.35),
		).under([0.12, 0.07, 0.025], p.cloudy({ cells: 5 }).times(1.1).minus(0.1));
		return { heightMm, colour, roughness: 0.34 };
	},
};
