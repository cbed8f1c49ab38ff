import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const lichen: Recipe = {
	name: "lichen on stone",
	family: "grown",
	found: "yellow grey old rock crust",
	sideM: 1.2,
	depthMm: 19,
	grain: "turns",
	made: (p) => {
		const stone = p.cloudy({ cells: 6, octaves: 6, gain: 0.55 });
		let colour = blend([0.17, 0.165, 0.16], [0.33, 0.315, 0.295], stone.plus(0.5));
		let heightMm = stone.times(16);
		const kinds = [
			[7, [0.42, 0.44, 0.36]],
			[11, [0.5, 0.36, 0.06]],
			[16, [0.55, 0.56, 0.5]],
		] as const;
		for (const [cells, paint] of kinds) {
			const spot = p.scattered({ cells, at: p.strayed(0.03, 18, 4) });
			const on = spot.nearest.between(0.44, 0.4).times(spot.lot.between(0.45, 0.5));
			const ring = spot.nearest.times(6).wave.times(0.5).plus(0.5);
			colour = colour.under(paint, on.times(ring.times(0.35).plus(0.6)));
			heightMm = heightMm.plus(on.times(ring.times(0.8).plus(1.2)));
		}
		return { heightMm, colour, roughness: 0.92 };
	},
};
