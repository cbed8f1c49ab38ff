import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const paintedBoards: Recipe = {
	name: "boards, paint coming off",
	family: "wood",
	found: "hut shed blue peeling door",
	sideM: SIDE_M,
	depthMm: 14,
	grain: { blocks: 1 },
	made: (p) => {
		const board = p.courses({ rows: 14, inRow: 1, shift: 0.41, strays: 0.3 }, SIDE_M);
		const cut = p.moved(board.lot.times(5.3), board.lot.times(2.9));
		const grain = p.cloudy({ cells: 3, along: 150, octaves: 3, at: cut });
		const off = p
			.cloudy({ cells: 6, along: 14, octaves: 6, gain: 0.6, at: cut })
			.plus(grain.times(0.3))
			.between(0.1, 0.16);
		const lies = board.edgeM.between(0, 0.005);
		const heightMm = lies.times(10).plus(board.lot.times(2)).plus(grain.times(1.2)).minus(off.times(0.8));
		const paint = blend([0.1, 0.17, 0.2], [0.17, 0.26, 0.29], p.cloudy({ cells: 5, octaves: 4 }).plus(0.5));
		const wood = blend([0.2, 0.17, 0.14], [0.36, 0.32, 0.275], grain.plus(0.5));
		const colour = paint.under(wood, off).times(lies.times(0.8).plus(0.2));
		return { heightMm, colour, roughness: off.times(0.35).plus(0.48) };
	},
};
