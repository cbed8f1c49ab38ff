import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2.4;

export const planks: Recipe = {
	name: "planks, grey with weather",
	family: "wood",
	found: "floor hut jetty grey boards",
	sideM: SIDE_M,
	depthMm: 19,
	grain: { blocks: 1 },
	made: (p) => {
		const board = p.courses({ rows: 15, inRow: 1, shift: 0.37, strays: 0.4 }, SIDE_M);
		// Each board is cut from elsewhere.
		const cut = p.moved(board.lot.times(7.31), board.lot.times(3.17));
		const bent = p.moved(0, p.cloudy({ cells: 4, along: 24, octaves: 2, at: cut }).times(0.006), cut);
		const grain = p.cloudy({ cells: 3, along: 170, octaves: 3, at: bent });
		const fine = p.cloudy({ cells: 14, along: 400, octaves: 1, at: bent });
		const cracks = p.cloudy({ cells: 2, along: 110, octaves: 1, at: bent }).between(0.3, 0.5);
		const lies = board.edgeM.between(0, 0.006);
		const heightMm = lies
			.times(12)
			.plus(board.lot.times(2.5))
			.plus(grain.times(1.6))
			.plus(fine.times(0.6))
			.minus(cracks.times(4));
		const colour = blend(
			[0.2, 0.165, 0.13],
			[0.36, 0.33, 0.29],
			board.lot.times(0.45).plus(grain.times(0.6)).plus(0.35),
		)
			.under([0.09, 0.07, 0.055], cracks.times(0.8))
			.times(lies.times(0.75).plus(0.25).times(fine.times(0.3).plus(1)));
		return { heightMm, colour, roughness: grain.times(0.1).plus(0.8) };
	},
};
