import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const lead: Recipe = {
	name: "lead sheet",
	family: "metal",
	found: "roof grey dull church",
	sideM: SIDE_M,
	depthMm: 28,
	grain: { blocks: 3 },
	made: (p) => {
		const sheet = p.courses({ rows: 1, inRow: 3, shift: 0 }, SIDE_M);
		const roll = sheet.asideM.by(0.03).from(1).round;
		const dent = p.cloudy({ cells: 14, octaves: 4 });
		const white = p.cloudy({ cells: 5, along: 2, octaves: 6 }).between(0.05, 0.5);
		const heightMm = roll.times(24).plus(dent.times(3.5));
		const colour = blend([0.2, 0.21, 0.225], [0.34, 0.35, 0.365], dent.plus(0.5)).under(
			[0.52, 0.52, 0.51],
			white.times(0.6),
		);
		return { heightMm, colour, roughness: white.times(0.3).plus(0.5), metal: white.from(1).times(0.5) };
	},
};
