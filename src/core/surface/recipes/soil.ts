import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const soil: Recipe = {
	name: "soil, dark and crumbling",
	family: "ground",
	found: "earth garden field brown",
	sideM: 1.5,
	depthMm: 26,
	grain: "turns",
	made: (p) => {
		const clod = p.scattered({ cells: 20, at: p.strayed(0.02, 20) });
		const crumb = p.scattered({ cells: 90, at: p.strayed(0.004, 60) });
		const clods = clod.second.minus(clod.nearest).times(1.6).round.times(clod.lot);
		const crumbs = crumb.second.minus(crumb.nearest).times(1.8).round.times(crumb.lot);
		const heightMm = clods
			.times(14)
			.plus(crumbs.times(5))
			.plus(p.cloudy({ cells: 4, octaves: 4 }).times(10));
		const colour = blend([0.045, 0.032, 0.022], [0.15, 0.11, 0.075], crumbs.times(0.6).plus(clods.times(0.4))).under(
			[0.28, 0.23, 0.17],
			crumb.lot.between(0.94, 0.96).times(0.6),
		);
		return { heightMm, colour, roughness: 0.95 };
	},
};
