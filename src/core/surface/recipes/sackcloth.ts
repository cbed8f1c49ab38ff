import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const sackcloth: Recipe = {
	name: "sackcloth",
	family: "cloth and glass",
	found: "burlap sack brown coarse",
	sideM: 0.5,
	depthMm: 7.9,
	grain: { blocks: 40 },
	made: (p) => {
		const at = p.strayed(0.004, 30);
		const warp = at.u.times(80);
		const weft = at.v.times(80);
		const over = warp.by(2).wave.times(weft.by(2).wave);
		const gaps = warp.wave.plus(weft.wave).between(0.8, 1.7);
		const hair = p.cloudy({ cells: 90, octaves: 3 });
		const heightMm = over
			.times(0.7)
			.minus(gaps.times(1.2))
			.plus(hair.times(0.5))
			.plus(p.cloudy({ cells: 3, octaves: 3 }).times(5));
		const colour = blend(
			[0.16, 0.115, 0.07],
			[0.36, 0.28, 0.18],
			hair.times(0.6).plus(over.times(0.2)).plus(0.5),
		).times(gaps.times(-0.7).plus(1));
		return { heightMm, colour, roughness: 0.95 };
	},
};
