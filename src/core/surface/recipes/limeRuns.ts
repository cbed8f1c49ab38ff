import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const limeRuns: Recipe = {
	name: "plaster with run-off",
	family: "plaster and paving",
	found: "wall stained streaks rain dirty town",
	sideM: 3,
	depthMm: 7.3,
	grain: "shifts",
	made: (p) => {
		const trowel = p.cloudy({ cells: 20, octaves: 5 });
		const streak = p.cloudy({ cells: 40, along: 2, octaves: 4, gain: 0.6, at: p.strayed(0.006, 12) });
		const runs = streak.between(0.02, 0.4);
		const crack = p.scattered({ cells: 4, at: p.strayed(0.05, 8, 4) });
		const line = crack.second.minus(crack.nearest).between(0.012, 0).times(crack.lot.between(0.4, 0.6));
		const heightMm = trowel.times(3).minus(line.times(4));
		const colour = blend([0.48, 0.42, 0.33], [0.64, 0.58, 0.48], p.cloudy({ cells: 4 }).plus(0.5))
			.under([0.17, 0.15, 0.12], runs.times(0.7))
			.under([0.1, 0.09, 0.08], line.times(0.8));
		return { heightMm, colour, roughness: 0.88 };
	},
};
