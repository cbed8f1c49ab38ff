import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const ivy: Recipe = {
	name: "ivy on a wall",
	family: "grown",
	found: "leaves green wall climbing",
	sideM: 1.2,
	depthMm: 37,
	thickMm: 70,
	grain: "turns",
	made: (p) => {
		let heightMm = p.cloudy({ cells: 8, octaves: 3 }).times(6);
		let colour = blend([0.012, 0.016, 0.008], [0.03, 0.035, 0.018], p.cloudy({ cells: 30, octaves: 3 }).plus(0.5));
		for (const [cells, high] of [
			[17, 14],
			[15, 24],
			[13, 34],
		] as const) {
			const leaf = p.scattered({ cells, strays: 0.9, at: p.strayed(0.02, 3 * cells, 2) });
			const on = leaf.nearest.between(0.47, 0.44);
			const vein = p.cloudy({ cells: 4 * cells, octaves: 2 }).absolute.between(0.05, 0);
			const own = blend([0.02, 0.045, 0.012], [0.075, 0.13, 0.035], leaf.lot.plus(vein.times(0.4))).times(
				leaf.nearest.times(-0.8).plus(1.15),
			);
			colour = colour.under(own, on);
			heightMm = heightMm.mixed(leaf.nearest.squared.times(-22).plus(high), on);
		}
		return { heightMm, colour, roughness: 0.42 };
	},
};
