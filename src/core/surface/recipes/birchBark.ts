import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const birchBark: Recipe = {
	name: "bark, white with dark lips",
	family: "grown",
	found: "birch tree trunk pale",
	sideM: 1,
	depthMm: 5.1,
	grain: "shifts",
	made: (p) => {
		const peel = p.cloudy({ cells: 2, along: 60, octaves: 3 });
		const lips = p.scattered({ cells: 9, along: 42, strays: 1 });
		const lip = lips.nearest.between(0.42, 0.2).times(lips.lot.between(0.66, 0.7));
		const scar = p.cloudy({ cells: 4, octaves: 5, gain: 0.6 }).between(0.34, 0.44);
		const heightMm = peel
			.times(1.6)
			.plus(lip.times(2.2))
			.plus(scar.times(5))
			.plus(p.cloudy({ cells: 4 }).times(2));
		const colour = blend([0.55, 0.5, 0.43], [0.76, 0.73, 0.68], peel.plus(0.5))
			.under([0.1, 0.075, 0.06], lip.times(0.85))
			.under([0.045, 0.038, 0.033], scar);
		return { heightMm, colour, roughness: 0.7 };
	},
};
