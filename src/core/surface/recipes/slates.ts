import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2.4;

export const slates: Recipe = {
	name: "slates on a roof",
	family: "roofs",
	found: "roof grey wet town blue",
	sideM: SIDE_M,
	depthMm: 12,
	grain: { blocks: 8 },
	made: (p) => {
		const slate = p.courses({ rows: 14, inRow: 8, shift: 0.5, strays: 0.06 }, SIDE_M, p.strayed(0.0012, 20));
		const split = p.cloudy({
			cells: 8,
			along: 40,
			octaves: 4,
			at: p.moved(slate.lot.times(3.7), slate.lot.times(5.9)),
		});
		const gap = slate.asideM.between(0, 0.004);
		const broken = slate.along.plus(split.times(0.08)).between(0.99, 0.95);
		const lies = slate.along.times(9);
		const heightMm = lies.times(gap).plus(split.times(1.4)).plus(slate.lot.times(1.5)).plus(broken.times(1.5));
		const colour = blend(
			[0.07, 0.078, 0.092],
			[0.17, 0.178, 0.195],
			slate.lot.times(0.8).plus(split.times(0.5)).plus(0.1),
		)
			.under([0.15, 0.11, 0.09], slate.lot.between(0.86, 0.9).times(0.6))
			.times(gap.times(slate.along.between(0, 0.08)).times(0.75).plus(0.25));
		return { heightMm, colour, roughness: split.times(0.2).plus(0.52) };
	},
};
