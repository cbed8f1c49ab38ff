import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const greenCopper: Recipe = {
	name: "copper, green",
	family: "metal",
	found: "roof dome bronze verdigris",
	sideM: SIDE_M,
	depthMm: 15,
	grain: { blocks: 4 },
	made: (p) => {
		const sheet = p.courses({ rows: 2, inRow: 4, shift: 0.5 }, SIDE_M);
		const seam = sheet.asideM.between(0.014, 0.004);
		const green = p.cloudy({ cells: 4, along: 2, octaves: 6, gain: 0.55 }).between(-0.35, 0.1);
		const runs = p.cloudy({ cells: 50, along: 2, octaves: 3 });
		const heightMm = seam
			.times(12)
			.plus(p.cloudy({ cells: 5, octaves: 3 }).times(3))
			.plus(green.times(0.3));
		const bare = blend([0.2, 0.09, 0.05], [0.34, 0.17, 0.1], runs.plus(0.5));
		const patina = blend(
			[0.14, 0.28, 0.24],
			[0.32, 0.48, 0.41],
			runs
				.times(0.8)
				.plus(p.cloudy({ cells: 9 }).times(0.5))
				.plus(0.5),
		);
		const colour = bare.under(patina, green);
		return { heightMm, colour, roughness: green.times(0.4).plus(0.42), metal: green.from(1).times(0.9) };
	},
};
