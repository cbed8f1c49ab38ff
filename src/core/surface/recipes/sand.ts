import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const sand: Recipe = {
	name: "sand, rippled by wind",
	family: "ground",
	found: "beach dune desert yellow",
	sideM: 2,
	depthMm: 9.7,
	grain: "shifts",
	made: (p) => {
		const grain = p.scattered({ cells: 420 });
		const bent = p
			.cloudy({ cells: 2, octaves: 3 })
			.times(0.9)
			.plus(p.cloudy({ cells: 7, octaves: 2 }).times(0.25));
		const turn = p.here.v.times(18).plus(bent);
		const wave = turn.wave;
		// Gentle towards the wind, steep behind.
		const ripple = wave.plus(turn.times(2).minus(0.06).wave.times(0.28));
		const heightMm = ripple.times(p.cloudy({ cells: 3, octaves: 2 }).times(2.1).plus(3.15)).plus(grain.lot.times(0.25));
		const pale = wave
			.times(0.3)
			.plus(p.cloudy({ cells: 3, octaves: 4 }).times(0.3))
			.plus(0.5);
		const colour = blend([0.36, 0.28, 0.19], [0.5, 0.41, 0.29], pale).times(grain.lot.times(0.28).plus(0.86));
		return { heightMm, colour, roughness: 0.93 };
	},
};
