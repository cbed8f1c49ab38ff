import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const woodShingles: Recipe = {
	name: "shingles of wood",
	family: "roofs",
	found: "roof grey hut wood cedar",
	sideM: SIDE_M,
	depthMm: 15,
	grain: { blocks: 14 },
	made: (p) => {
		const shingle = p.courses({ rows: 12, inRow: 14, shift: 0.43, strays: 0.5 }, SIDE_M);
		const at = p.moved(shingle.lot.times(4.1), shingle.lot.times(2.3));
		const grain = p.cloudy({ cells: 130, along: 4, octaves: 3, at });
		const gap = shingle.asideM.between(0.001, 0.005);
		const heightMm = shingle.along.times(11).times(gap).plus(grain.times(1.2)).plus(shingle.lot.times(3));
		const colour = blend(
			[0.13, 0.115, 0.1],
			[0.32, 0.295, 0.265],
			shingle.lot.times(0.7).plus(grain.times(0.6)).plus(0.15),
		).times(gap.times(shingle.along.between(0, 0.1)).times(0.75).plus(0.25));
		return { heightMm, colour, roughness: 0.85 };
	},
};
