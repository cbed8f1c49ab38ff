import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const sandstone: Recipe = {
	name: "sandstone, banded",
	family: "rock",
	found: "red desert canyon warm",
	sideM: 3,
	depthMm: 34,
	grain: "shifts",
	made: (p) => {
		const bent = p.moved(0, p.cloudy({ cells: 2, octaves: 3 }).times(0.06));
		const band = p.cloudy({ cells: 1, along: 16, octaves: 4, gain: 0.6, at: bent });
		const fine = p.cloudy({ cells: 6, along: 90, octaves: 2, at: bent });
		const hollow = p.cloudy({ cells: 5, octaves: 4 }).between(0.1, 0.5);
		const grain = p.cloudy({ cells: 220, octaves: 2 });
		const heightMm = band.times(22).plus(fine.times(4)).minus(hollow.times(16)).plus(grain.times(0.8));
		const colour = blend([0.3, 0.14, 0.075], [0.56, 0.33, 0.19], band.times(0.9).plus(fine.times(0.3)).plus(0.5))
			.under([0.6, 0.47, 0.33], band.between(0.25, 0.4).times(0.7))
			.times(grain.times(0.14).plus(1));
		return { heightMm, colour, roughness: 0.9 };
	},
};
