import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const canvas: Recipe = {
	name: "canvas, weathered",
	family: "cloth and glass",
	found: "sail tent cloth pale",
	sideM: 1,
	depthMm: 7.4,
	grain: { blocks: 90 },
	made: (p) => {
		const warp = p.here.u.times(180);
		const weft = p.here.v.times(180);
		const over = warp.by(2).wave.times(weft.by(2).wave);
		const threads = warp.wave.times(0.5).plus(weft.wave.times(0.5));
		const folds = p.cloudy({ cells: 3, along: 2, octaves: 4 });
		const heightMm = over.times(0.35).plus(threads.times(-0.25)).plus(folds.times(9));
		const stain = p.cloudy({ cells: 4, octaves: 6 });
		const colour = blend([0.4, 0.35, 0.27], [0.6, 0.55, 0.45], stain.times(0.9).plus(threads.times(-0.12)).plus(0.5));
		return { heightMm, colour, roughness: 0.9 };
	},
};
