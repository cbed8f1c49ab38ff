import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const setts: Recipe = {
	name: "setts of granite",
	family: "plaster and paving",
	found: "street paving square road blocks",
	sideM: SIDE_M,
	depthMm: 22,
	grain: { blocks: 14 },
	made: (p) => {
		const stone = p.courses({ rows: 20, inRow: 14, shift: 0.5, strays: 0.15 }, SIDE_M, p.strayed(0.003, 18));
		const round = stone.edgeM.by(0.03).round;
		const grain = p.scattered({ cells: 200 });
		const face = p.cloudy({ cells: 50, octaves: 3 });
		const heightMm = round.times(16).plus(stone.lot.times(5)).plus(face.times(1.5));
		const colour = blend([0.15, 0.145, 0.145], [0.33, 0.315, 0.305], stone.lot.times(0.7).plus(grain.lot.times(0.4)))
			.under([0.09, 0.08, 0.065], round.between(0.6, 0.25))
			.times(face.times(0.12).plus(1));
		return { heightMm, colour, roughness: round.between(0.7, 1).times(-0.3).plus(0.85) };
	},
};
