import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const daub: Recipe = {
	name: "daub, with straw",
	family: "plaster and paving",
	found: "clay wall hut warm rough",
	sideM: 2,
	depthMm: 22,
	grain: "turns",
	made: (p) => {
		const hand = p.cloudy({ cells: 7, octaves: 4 });
		const straw = p.cloudy({ cells: 24, along: 110, octaves: 2, at: p.strayed(0.05, 5) }).between(0.28, 0.4);
		const cross = p.cloudy({ cells: 110, along: 24, octaves: 2, at: p.strayed(0.05, 5) }).between(0.32, 0.44);
		const crack = p.scattered({ cells: 6, at: p.strayed(0.05, 8, 4) });
		const line = crack.second.minus(crack.nearest).between(0.02, 0);
		const heightMm = hand.times(14).plus(straw.atLeast(cross).times(2)).minus(line.times(5));
		const colour = blend([0.3, 0.22, 0.145], [0.47, 0.37, 0.26], hand.plus(0.5))
			.under([0.62, 0.52, 0.32], straw.atLeast(cross).times(0.6))
			.times(line.times(-0.55).plus(1));
		return { heightMm, colour, roughness: 0.93 };
	},
};
