import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const asphalt: Recipe = {
	name: "asphalt, worn",
	family: "plaster and paving",
	found: "road black street tar",
	sideM: 2,
	depthMm: 12,
	grain: "turns",
	made: (p) => {
		const stone = p.scattered({ cells: 110 });
		const chip = stone.nearest.between(0.5, 0.25).times(stone.lot.between(0.3, 0.5));
		const crack = p.scattered({ cells: 3, at: p.strayed(0.05, 9, 5) });
		const line = crack.second.minus(crack.nearest).between(0.014, 0.003);
		const worn = p.cloudy({ cells: 4, octaves: 5 });
		const heightMm = chip.times(2.2).plus(worn.times(3)).minus(line.times(8));
		const colour = blend([0.028, 0.028, 0.03], [0.075, 0.074, 0.074], worn.plus(0.4))
			.under([0.2, 0.195, 0.185], chip.times(stone.lot).times(0.8))
			.times(line.times(-0.7).plus(1));
		return { heightMm, colour, roughness: 0.82 };
	},
};
