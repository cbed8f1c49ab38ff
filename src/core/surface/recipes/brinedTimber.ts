import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const brinedTimber: Recipe = {
	name: "timber that was in brine",
	family: "wood",
	found: "salt grey post dock sea pale",
	sideM: 1.6,
	depthMm: 14,
	grain: "shifts",
	made: (p) => {
		const bent = p.moved(0, p.cloudy({ cells: 3, along: 6, octaves: 3 }).times(0.015));
		const grain = p.cloudy({ cells: 3, along: 90, octaves: 3, gain: 0.65, at: bent });
		const fine = p.cloudy({ cells: 12, along: 300, octaves: 1, at: bent });
		const checks = p.cloudy({ cells: 2, along: 26, octaves: 2, at: bent }).absolute.between(0.04, 0.01);
		const salt = p.cloudy({ cells: 5, octaves: 6, gain: 0.6 }).plus(grain.times(-0.4)).between(0.12, 0.4);
		const heightMm = grain.times(4.5).plus(fine.times(0.8)).minus(checks.times(8)).plus(salt.times(1.2));
		const colour = blend([0.15, 0.135, 0.12], [0.34, 0.315, 0.285], grain.times(0.9).plus(0.5))
			.under([0.03, 0.026, 0.023], checks.times(0.8))
			.under([0.74, 0.72, 0.69], salt.times(0.75));
		return { heightMm, colour, roughness: 0.86 };
	},
};
