import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const leafLitter: Recipe = {
	name: "leaves on the ground, autumn",
	family: "ground",
	found: "forest brown fallen litter wood",
	sideM: 1.2,
	depthMm: 18,
	thickMm: 12,
	grain: "turns",
	made: (p) => {
		let heightMm = p.cloudy({ cells: 12, octaves: 3 }).times(3);
		let colour = blend([0.03, 0.022, 0.016], [0.08, 0.058, 0.04], p.cloudy({ cells: 60, octaves: 3 }).plus(0.5));
		for (const [cells, high] of [
			[15, 4],
			[13, 8],
			[12, 12],
			[11, 16],
		] as const) {
			const leaf = p.scattered({ cells, strays: 1, at: p.strayed(0.014, 2 * cells) });
			const on = leaf.nearest.between(0.46, 0.43).times(leaf.lot.between(0.28, 0.3));
			const curl = leaf.nearest.squared.times(14).plus(high - 2);
			const vein = p.cloudy({ cells: 5 * cells, octaves: 2 });
			const own = blend([0.12, 0.055, 0.025], [0.42, 0.22, 0.07], leaf.lot.times(1.4).minus(0.3).plus(vein.times(0.25)))
				.under([0.3, 0.06, 0.03], leaf.lot.between(0.78, 0.82).times(0.7))
				.times(leaf.nearest.times(-0.7).plus(1.1));
			colour = colour.under(own, on);
			heightMm = heightMm.mixed(curl, on);
		}
		return { heightMm, colour, roughness: 0.72 };
	},
};
