import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const moss: Recipe = {
	name: "moss, cushions",
	family: "grown",
	found: "green soft stone forest wall",
	sideM: 1.2,
	depthMm: 31,
	thickMm: 25,
	grain: "turns",
	made: (p) => {
		const cushion = p.scattered({ cells: 11, at: p.strayed(0.02, 12) });
		const tip = p.scattered({ cells: 130 });
		const round = cushion.second.minus(cushion.nearest).times(1.5).round;
		const tuft = tip.nearest.between(0.75, 0.1);
		const heightMm = round
			.times(cushion.lot.times(9.6).plus(14.4))
			.plus(tuft.times(5))
			.plus(p.cloudy({ cells: 40, octaves: 3 }).times(3));
		const bright = cushion.lot.times(0.4).plus(tuft.times(round).times(0.5)).plus(0.25);
		const colour = blend([0.035, 0.06, 0.012], [0.13, 0.19, 0.035], bright)
			.under([0.15, 0.12, 0.04], p.cloudy({ cells: 3, octaves: 4 }).times(0.9))
			.times(round.atLeast(tuft.times(0.3)).times(0.65).plus(0.35));
		return { heightMm, colour, roughness: 0.95 };
	},
};
