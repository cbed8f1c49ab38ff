import { blend, type Field, field } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const shingle: Recipe = {
	name: "shingle, rounded",
	family: "ground",
	found: "beach pebbles sea shore grey",
	sideM: 1.5,
	depthMm: 34,
	grain: "turns",
	made: (p) => {
		let heightMm = p.cloudy({ cells: 60, octaves: 2 }).times(1).minus(8);
		let lot: Field = field(0.3);
		for (const [cells, high] of [
			[17, 34],
			[32, 20],
			[58, 11],
		] as const) {
			const stone = p.scattered({ cells, strays: 0.7, at: p.strayed(0.006, cells) });
			const top = stone.nearest
				.from(0.62)
				.by(0.62)
				.round.times(stone.lot.times(0.4 * high).plus(0.6 * high))
				.minus(6);
			lot = lot.mixed(stone.lot, top.minus(heightMm).times(3));
			heightMm = heightMm.atLeast(top);
		}
		const colour = blend([0.13, 0.13, 0.135], [0.42, 0.4, 0.37], lot)
			.under([0.3, 0.2, 0.14], lot.between(0.62, 0.66).times(lot.between(0.76, 0.72)).times(0.8))
			.times(heightMm.plus(8).by(16).held.times(0.6).plus(0.4))
			.times(p.cloudy({ cells: 70, octaves: 3 }).times(0.16).plus(1));
		return { heightMm, colour, roughness: lot.times(0.2).plus(0.5) };
	},
};
