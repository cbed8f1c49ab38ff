import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const thatch: Recipe = {
	name: "thatch",
	family: "roofs",
	found: "straw roof reed hut cottage",
	sideM: 2,
	depthMm: 35,
	grain: "shifts",
	made: (p) => {
		const at = p.strayed(0.02, 8);
		const reed = p.cloudy({ cells: 170, along: 8, octaves: 3, at });
		const course = p.here.v.times(6).plus(p.cloudy({ cells: 8, octaves: 3 }).times(0.3));
		const step = course.minus(course.floor);
		const heightMm = step
			.times(22)
			.plus(reed.times(9))
			.plus(p.cloudy({ cells: 12, octaves: 3 }).times(6));
		const colour = blend(
			[0.09, 0.07, 0.045],
			[0.36, 0.29, 0.185],
			reed.times(0.9).plus(step.times(0.3)).plus(0.3),
		).under([0.07, 0.085, 0.035], p.cloudy({ cells: 3 }).times(0.9).minus(0.15));
		return { heightMm, colour, roughness: 0.93 };
	},
};
