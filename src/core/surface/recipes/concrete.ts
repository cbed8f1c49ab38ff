import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 3;

export const concrete: Recipe = {
	name: "concrete, board marked",
	family: "plaster and paving",
	found: "grey wall cast dock modern",
	sideM: SIDE_M,
	depthMm: 9.5,
	grain: { blocks: 1 },
	made: (p) => {
		const board = p.courses({ rows: 20, inRow: 1, shift: 0.3, strays: 0.6 }, SIDE_M);
		const grain = p.cloudy({
			cells: 4,
			along: 160,
			octaves: 2,
			at: p.moved(board.lot.times(5.1), board.lot.times(3.3)),
		});
		const fin = board.underM.between(0.006, 0);
		const holes = p.scattered({ cells: 60 });
		const hole = holes.nearest.between(0.24, 0.14).times(holes.lot.between(0.8, 0.84));
		const heightMm = board.lot.times(2.5).plus(grain.times(0.9)).plus(fin.times(2.5)).minus(hole.times(4));
		const stain = p.cloudy({ cells: 5, along: 2, octaves: 5 });
		const colour = blend(
			[0.26, 0.255, 0.245],
			[0.42, 0.415, 0.4],
			board.lot.times(0.5).plus(stain.times(0.7)).plus(0.3),
		).times(hole.times(-0.6).plus(1));
		return { heightMm, colour, roughness: 0.83 };
	},
};
