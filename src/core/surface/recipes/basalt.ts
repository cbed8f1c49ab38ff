import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const basalt: Recipe = {
	name: "basalt, in columns",
	family: "rock",
	found: "black dark lava hexagon coast",
	sideM: 3,
	depthMm: 55,
	grain: "turns",
	made: (p) => {
		const column = p.scattered({ cells: 7, strays: 0.5, at: p.strayed(0.006, 12) });
		const gap = column.second.minus(column.nearest);
		const stands = gap.between(0.01, 0.1);
		const bubbles = p.scattered({ cells: 160 });
		const bubble = bubbles.nearest.between(0.35, 0.1).times(bubbles.lot.between(0.5, 0.8));
		const rough = p.cloudy({ cells: 24, octaves: 5 });
		const heightMm = stands.times(column.lot.times(30).plus(22)).plus(rough.times(3)).minus(bubble.times(2.5));
		const colour = blend(
			[0.035, 0.036, 0.04],
			[0.1, 0.1, 0.105],
			column.lot.times(0.5).plus(rough.times(0.6)).plus(0.3),
		)
			.under([0.16, 0.1, 0.06], p.cloudy({ cells: 5 }).times(0.8).minus(0.15))
			.times(stands.times(0.6).plus(0.4));
		return { heightMm, colour, roughness: rough.times(0.15).plus(0.68) };
	},
};
