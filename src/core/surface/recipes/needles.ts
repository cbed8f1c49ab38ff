import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const needles: Recipe = {
	name: "needles under pines",
	family: "ground",
	found: "forest pine brown floor",
	sideM: 1,
	depthMm: 13,
	thickMm: 8,
	grain: "turns",
	made: (p) => {
		let heightMm = p.cloudy({ cells: 10, octaves: 3 }).times(4);
		let lot = p.cloudy({ cells: 40, octaves: 2 }).plus(0.4);
		for (const [across, along] of [
			[8, 150],
			[150, 8],
			[40, 110],
			[110, 40],
		] as const) {
			const needle = p.cloudy({ cells: across, along, octaves: 2, at: p.strayed(0.04, 5, 2) });
			const on = needle.between(0.18, 0.3);
			heightMm = heightMm.plus(on.times(2.2));
			lot = lot.mixed(needle.plus(0.5), on);
		}
		const colour = blend([0.055, 0.032, 0.02], [0.34, 0.19, 0.1], lot);
		return { heightMm, colour, roughness: 0.85 };
	},
};
