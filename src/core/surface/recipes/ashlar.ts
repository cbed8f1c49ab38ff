import { blend } from "../field.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 4;

export const ashlar: Recipe = {
	name: "ashlar, weathered",
	family: "masonry",
	found: "quay dock tower castle wall grey stone",
	sideM: SIDE_M,
	depthMm: 27,
	grain: { blocks: 5 },
	made: (p) => {
		const stone = p.courses({ rows: 10, inRow: 5, shift: 0.5, strays: 0.12 }, SIDE_M, p.strayed(0.001, 20));
		const face = p.cloudy({ cells: 28, octaves: 6, gain: 0.55 });
		const worn = p.cloudy({ cells: 9, octaves: 4 }).atLeast(0);
		const stands = stone.edgeM.plus(face.times(0.003)).between(0.004, worn.times(0.03).plus(0.018));
		const heightMm = stands.times(stone.lot.times(5).plus(16)).plus(face.times(4)).minus(worn.squared.times(10));
		const colour = blend(
			[0.27, 0.245, 0.21],
			[0.45, 0.415, 0.355],
			stone.lot.times(0.55).plus(face.times(0.4)).plus(0.25),
		)
			.under([0.2, 0.185, 0.165], stands.from(1).times(0.8))
			.under([0.12, 0.115, 0.105], p.cloudy({ cells: 3 }).times(1.1).minus(0.1))
			.times(p.cloudy({ cells: 150, octaves: 2 }).times(0.12).plus(1));
		return { heightMm, colour, roughness: 0.84 };
	},
};
