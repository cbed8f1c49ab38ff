import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2.4;

export const pantiles: Recipe = {
	name: "clay pantiles",
	family: "roofs",
	found: "roof red warm south town terracotta",
	sideM: SIDE_M,
	depthMm: 62,
	grain: { blocks: 12 },
	made: (p) => {
		const tile = p.courses({ rows: 8, inRow: 12, shift: 0, strays: 0.04 }, SIDE_M);
		const arch = tile.across.minus(0.5).absolute.times(2).from(1).round;
		const soot = p.cloudy({ cells: 6, octaves: 5 });
		const fine = p.cloudy({ cells: 80, octaves: 3 });
		const heightMm = arch.times(44).plus(tile.along.times(16)).plus(tile.lot.times(4)).plus(fine.times(0.8));
		const colour = blend([0.25, 0.085, 0.045], [0.5, 0.235, 0.135], tile.lot.times(0.9).plus(fine.times(0.3)))
			.under([0.1, 0.085, 0.07], soot.times(1.1).minus(0.05))
			.times(arch.between(0, 0.5).times(tile.along.between(0, 0.06)).times(0.8).plus(0.2));
		return { heightMm, colour, roughness: 0.84 };
	},
};
