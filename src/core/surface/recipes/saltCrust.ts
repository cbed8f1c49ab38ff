import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const saltCrust: Recipe = {
	name: "salt crust",
	family: "salt and ice",
	found: "pan flat white dry plates",
	sideM: 2,
	depthMm: 19,
	grain: "turns",
	made: (p) => {
		const plate = p.scattered({ cells: 6, at: p.strayed(0.015, 8) });
		const crystal = p.scattered({ cells: 150 });
		// Ridges where plates have grown against each other.
		const ridge = plate.second.minus(plate.nearest).between(0.16, 0);
		const grown = p.cloudy({ cells: 12 });
		const heightMm = ridge
			.times(grown.times(8).plus(11.2))
			.plus(grown.times(3))
			.plus(crystal.nearest.from(0.7).times(crystal.lot).times(2.2));
		const colour = blend(
			[0.62, 0.6, 0.56],
			[0.86, 0.85, 0.83],
			grown.times(0.5).plus(ridge.times(0.4)).plus(0.55),
		).under([0.42, 0.35, 0.28], grown.between(-0.1, -0.5).times(ridge.from(1)).times(0.45));
		return { heightMm, colour, roughness: crystal.lot.times(0.3).plus(0.5) };
	},
};
