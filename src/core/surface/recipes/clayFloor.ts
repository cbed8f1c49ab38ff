import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;

export const clayFloor: Recipe = {
	name: "clay tiles on a floor",
	family: "plaster and paving",
	found: "floor terracotta red kitchen",
	sideM: SIDE_M,
	depthMm: 9.6,
	grain: { blocks: 10 },
	made: (p) => {
		const tile = p.courses({ rows: 10, inRow: 10, shift: 0 }, SIDE_M, p.strayed(0.001, 20));
		const worn = p.cloudy({ cells: 12, octaves: 5 });
		const stands = tile.edgeM.between(0.002, 0.009);
		const heightMm = stands.times(tile.lot.times(2.5).plus(6)).plus(worn.times(1.2));
		const colour = blend(
			[0.24, 0.085, 0.045],
			[0.45, 0.2, 0.115],
			tile.lot.times(0.8).plus(worn.times(0.4)).plus(0.1),
		).under([0.26, 0.235, 0.2], stands.from(1));
		return { heightMm, colour, roughness: stands.times(worn.times(0.2).minus(0.35)).plus(0.85) };
	},
};
