import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

export const limestone: Recipe = {
	name: "limestone, bedded",
	family: "rock",
	found: "pale cliff karst grey",
	sideM: 3,
	depthMm: 59,
	grain: "shifts",
	made: (p) => {
		const bent = p.moved(0, p.cloudy({ cells: 3, octaves: 3 }).times(0.03));
		const bed = p.cloudy({ cells: 2, along: 9, octaves: 3, at: bent });
		const joint = bed.times(4).minus(bed.times(4).floor).minus(0.5).absolute.between(0.42, 0.5);
		const pits = p.scattered({ cells: 70 });
		const pit = pits.nearest.between(0.4, 0.1).times(pits.lot.between(0.6, 0.9));
		const rough = p.cloudy({ cells: 8, octaves: 6, gain: 0.55 });
		const heightMm = bed.times(26).plus(rough.times(18)).minus(joint.times(14)).minus(pit.times(5));
		const colour = blend([0.36, 0.34, 0.3], [0.6, 0.57, 0.5], rough.times(0.8).plus(bed.times(0.3)).plus(0.5))
			.under([0.17, 0.16, 0.15], joint.atLeast(pit).times(0.6))
			.under([0.14, 0.15, 0.15], p.cloudy({ cells: 4, along: 2 }).times(1.2).minus(0.3));
		return { heightMm, colour, roughness: 0.88 };
	},
};
