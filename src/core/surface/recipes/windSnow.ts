import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const windSnow: Recipe = {
	name: "snow, packed by wind",
	family: "salt and ice",
	found: "white winter ridges drift",
	sideM: 4,
	depthMm: 55,
	thickMm: 60,
	grain: "shifts",
	made: (p) => {
		const bent = p.strayed(0.03, 4);
		const ridge = p.cloudy({ cells: 9, along: 3, octaves: 4, at: bent });
		const sharp = ridge.absolute.from(0.35).atLeast(0).times(3).squared;
		const fine = p.cloudy({ cells: 90, along: 24, octaves: 2, at: bent });
		const heightMm = sharp.times(38).plus(ridge.times(20)).plus(fine.times(2.5));
		const colour = blend([0.74, 0.77, 0.82], [0.88, 0.885, 0.89], sharp.times(0.4).plus(0.4));
		return { heightMm, colour, roughness: 0.6 };
	},
};
