import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const wattle: Recipe = {
	name: "wattle, woven",
	family: "wood",
	found: "fence hurdle basket willow",
	sideM: 1,
	depthMm: 38,
	grain: { blocks: 5 },
	made: (p) => {
		const high = p.here.v.times(24).plus(p.cloudy({ cells: 6, octaves: 2 }).times(0.25));
		const row = high.floor;
		const odd = row.by(2).minus(row.by(2).floor).times(2);
		const weave = p.here.u.times(5).plus(odd.times(0.5)).wave;
		const along = high.minus(row).minus(0.5).absolute.times(2);
		const round = along.from(1).round;
		const lot = p.lot(row, row, [24, 24]);
		const bark = p.cloudy({ cells: 4, along: 220, octaves: 2 });
		const heightMm = round.times(13).plus(weave.times(12)).plus(bark.times(1));
		const colour = blend([0.1, 0.07, 0.045], [0.3, 0.22, 0.14], lot.times(0.8).plus(bark.times(0.5)).plus(0.1)).times(
			round.times(weave.times(0.25).plus(0.75)).times(0.85).plus(0.15),
		);
		return { heightMm, colour, roughness: 0.74 };
	},
};
