import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 3;

export const flagstones: Recipe = {
	name: "flagstones",
	family: "plaster and paving",
	found: "floor paving square church yard",
	sideM: SIDE_M,
	depthMm: 23,
	grain: { blocks: 4 },
	made: (p) => {
		const stone = p.courses({ rows: 5, inRow: 4, shift: 0.37, strays: 0.5 }, SIDE_M, p.strayed(0.002, 14));
		const face = p.cloudy({ cells: 18, octaves: 6, gain: 0.55 });
		const stands = stone.edgeM.plus(face.times(0.004)).between(0.004, 0.02);
		const tilt = stone.across.minus(0.5).times(stone.lot.minus(0.5)).times(9);
		const heightMm = stands.times(stone.lot.times(5).plus(tilt).plus(14)).plus(face.times(2.5));
		const colour = blend(
			[0.2, 0.19, 0.175],
			[0.4, 0.375, 0.335],
			stone.lot.times(0.7).plus(face.times(0.5)).plus(0.15),
		).under([0.085, 0.075, 0.055], stands.from(1));
		return { heightMm, colour, roughness: stands.times(-0.22).plus(0.88) };
	},
};
