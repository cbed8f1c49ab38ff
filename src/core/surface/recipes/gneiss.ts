import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const gneiss: Recipe = {
	name: "gneiss, folded",
	family: "rock",
	found: "grey mountain banded white",
	sideM: 2.4,
	depthMm: 23,
	grain: "shifts",
	made: (p) => {
		const fold = p
			.cloudy({ cells: 2, octaves: 3 })
			.times(0.16)
			.plus(p.cloudy({ cells: 6, octaves: 2 }).times(0.02));
		const band = p.cloudy({ cells: 1, along: 22, octaves: 4, gain: 0.65, at: p.moved(0, fold) });
		const pale = band.between(0.05, 0.2);
		const grain = p.scattered({ cells: 150 });
		const broken = p.cloudy({ cells: 5, octaves: 6, gain: 0.55 });
		const heightMm = broken.times(24).plus(band.times(6)).plus(grain.lot.times(0.8));
		const colour = blend([0.1, 0.1, 0.105], [0.24, 0.23, 0.225], grain.lot)
			.under([0.55, 0.52, 0.48], pale.times(grain.lot.times(0.5).plus(0.5)))
			.under([0.24, 0.16, 0.1], broken.between(0.1, 0.6).times(0.5));
		return { heightMm, colour, roughness: grain.lot.times(-0.2).plus(0.8) };
	},
};
