import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const slate: Recipe = {
	name: "slate, split",
	family: "rock",
	found: "dark quarry blue rock split",
	sideM: 3,
	depthMm: 25,
	grain: "shifts",
	made: (p) => {
		const lean = p.moved(0, p.cloudy({ cells: 2, octaves: 3 }).times(0.05));
		const leaves = p.cloudy({ cells: 3, along: 40, octaves: 3, at: lean });
		const step = leaves.times(5).plus(0.5).floor.by(5);
		const fine = p.cloudy({ cells: 24, along: 300, octaves: 2, at: lean });
		const broken = p.cloudy({ cells: 5 });
		const heightMm = step.times(14).plus(leaves.times(3)).plus(fine.times(0.8)).plus(broken.times(9));
		const colour = blend([0.085, 0.092, 0.105], [0.19, 0.2, 0.215], leaves.times(0.9).plus(0.5))
			.under([0.24, 0.16, 0.1], p.cloudy({ cells: 3 }).times(1.4).minus(0.25))
			.times(fine.times(0.16).plus(1));
		return { heightMm, colour, roughness: broken.absolute.times(0.25).plus(0.55) };
	},
};
