import { blend, type Field, field } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const scree: Recipe = {
	name: "scree, sharp",
	family: "rock",
	found: "loose stones slope mountain rubble",
	sideM: 2,
	depthMm: 62,
	grain: "turns",
	made: (p) => {
		let heightMm = p.cloudy({ cells: 40, octaves: 3 }).times(3).minus(4);
		let lot: Field = field(0.4);
		for (const [cells, high] of [
			[11, 60],
			[24, 34],
			[50, 16],
		] as const) {
			const at = p.strayed(0.01, cells);
			const stone = p.scattered({ cells, at });
			const lean = p.cloudy({ cells: 2 * cells, octaves: 2, at });
			const top = stone.second
				.minus(stone.nearest)
				.times(2.4)
				.atMost(1)
				.times(stone.lot.times(0.6).plus(0.4))
				.plus(lean.times(0.12));
			const raised = top.times(high).minus(4);
			lot = lot.mixed(stone.lot, raised.minus(heightMm).times(2));
			heightMm = heightMm.atLeast(raised);
		}
		const colour = blend(
			[0.12, 0.118, 0.115],
			[0.34, 0.325, 0.3],
			lot.plus(p.cloudy({ cells: 90, octaves: 2 }).times(0.25)),
		)
			.under([0.26, 0.19, 0.13], lot.between(0.8, 0.9).times(0.6))
			.times(heightMm.plus(4).by(26).held.times(0.55).plus(0.45));
		return { heightMm, colour, roughness: 0.86 };
	},
};
