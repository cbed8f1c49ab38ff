import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const whitewashedBrick: Recipe = {
	name: "brick, whitewashed",
	family: "masonry",
	found: "white wall farm yard lime",
	sideM: SIDE_M,
	depthMm: 10,
	grain: { blocks: 8 },
	made: (p) => {
		const stone = p.courses({ rows: 26, inRow: 8, shift: 0.5, strays: 0.08 }, SIDE_M, p.strayed(0.0016, 30));
		const pits = p.cloudy({ cells: 90, octaves: 4 });
		const stands = stone.edgeM.plus(pits.times(0.002)).between(0.001, 0.012);
		const off = p.cloudy({ cells: 5, octaves: 6, gain: 0.6 }).plus(stands.times(0.12)).between(0.2, 0.3);
		const heightMm = stands.times(stone.lot.times(2).plus(6)).plus(pits.times(1.2)).minus(off.times(0.8));
		const bare = blend([0.2, 0.065, 0.04], [0.4, 0.16, 0.1], stone.lot).under([0.4, 0.37, 0.33], stands.from(1));
		const colour = blend(
			[0.62, 0.6, 0.55],
			[0.78, 0.765, 0.73],
			p.cloudy({ cells: 6 }).plus(pits.times(0.3)).plus(0.5),
		).under(bare, off);
		return { heightMm, colour, roughness: 0.9 };
	},
};
