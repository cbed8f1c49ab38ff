import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const brick: Recipe = {
	name: "brick, old",
	family: "masonry",
	found: "wall red house town",
	sideM: SIDE_M,
	depthMm: 14,
	grain: { blocks: 8 },
	made: (p) => {
		const stone = p.courses({ rows: 26, inRow: 8, shift: 0.5, strays: 0.08 }, SIDE_M, p.strayed(0.0016, 30));
		const pits = p.cloudy({ cells: 90, octaves: 4 });
		const stands = stone.edgeM.plus(pits.times(0.0015)).between(0.003, 0.009);
		const heightMm = stands
			.times(stone.lot.times(3).plus(pits.times(1.1)).plus(9))
			.plus(p.cloudy({ cells: 60, octaves: 3 }).times(1.2));
		const colour = blend([0.2, 0.065, 0.04], [0.42, 0.17, 0.1], stone.lot.times(0.7).plus(pits.times(0.3)).plus(0.2))
			.under([0.09, 0.06, 0.06], stone.lot.between(0.87, 0.88).times(0.7))
			.under([0.4, 0.37, 0.33], stands.from(1))
			.times(p.cloudy({ cells: 4 }).times(0.25).plus(1));
		return { heightMm, colour, roughness: stands.times(-0.08).plus(0.93) };
	},
};
