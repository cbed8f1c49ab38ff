import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2.4;

export const mudBrick: Recipe = {
	name: "mud brick, washed by rain",
	family: "masonry",
	found: "adobe earth desert warm wall",
	sideM: SIDE_M,
	depthMm: 22,
	grain: { blocks: 6 },
	made: (p) => {
		const stone = p.courses({ rows: 20, inRow: 6, shift: 0.5, strays: 0.2 }, SIDE_M, p.strayed(0.006, 12));
		const washed = p.cloudy({ cells: 4, octaves: 5 }).between(-0.2, 0.4);
		const stands = stone.edgeM.between(0.002, 0.026).mixed(1, washed.times(0.8));
		const straw = p.cloudy({ cells: 60, along: 110, octaves: 2 }).between(0.3, 0.4);
		const rough = p.cloudy({ cells: 20, octaves: 5 });
		const heightMm = stands.times(15).plus(rough.times(6)).plus(straw.times(1.5));
		const colour = blend(
			[0.27, 0.19, 0.125],
			[0.45, 0.34, 0.24],
			stone.lot.times(0.5).plus(rough.times(0.5)).plus(0.25),
		).under([0.55, 0.45, 0.28], straw.times(0.6));
		return { heightMm, colour, roughness: 0.94 };
	},
};
