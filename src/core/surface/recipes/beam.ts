import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const beam: Recipe = {
	name: "beam, hewn and checked",
	family: "wood",
	found: "timber post old brown oak",
	sideM: 1.6,
	depthMm: 15,
	grain: "shifts",
	made: (p) => {
		const bent = p.moved(0, p.cloudy({ cells: 3, along: 6, octaves: 3 }).times(0.02));
		const grain = p.cloudy({ cells: 3, along: 70, octaves: 3, at: bent });
		const checks = p.cloudy({ cells: 2, along: 22, octaves: 2, at: bent }).absolute.between(0.035, 0.005);
		const adze = p.scattered({ cells: 7, along: 5, strays: 1 });
		const heightMm = adze.nearest.times(5).plus(grain.times(2)).minus(checks.times(9));
		const colour = blend([0.12, 0.08, 0.05], [0.27, 0.195, 0.13], grain.times(0.8).plus(adze.lot.times(0.2)).plus(0.4))
			.under([0.025, 0.018, 0.014], checks.times(0.85))
			.times(p.cloudy({ cells: 4, octaves: 3 }).times(0.2).plus(1));
		return { heightMm, colour, roughness: 0.78 };
	},
};
