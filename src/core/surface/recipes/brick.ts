import { smoothstep } from "../../maths/functions.ts";
import { cloudy, courses, over, shade, strayed, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;
const COURSES = { rows: 26, inRow: 8, shift: 0.5, sideM: SIDE_M, strays: 0.12 };

export const brick: Recipe = {
	name: "brick wall",
	family: "masonry",
	sideM: SIDE_M,
	made: (seed) => {
		const stones = strayed(courses(COURSES, seed), 0.0016, 30, seed);
		return (u, v, out) => {
			const stone = stones(u, v);
			const pits = cloudy(u, v, 90, seed + 3, 4);
			const stands = smoothstep(0.003, 0.009, stone.edgeM + 0.0015 * pits);
			out.heightMm = stands * (9 + 3 * stone.lot + 1.1 * pits) + 1.2 * cloudy(u, v, 60, seed + 4, 3);
			tint(out, [0.2, 0.065, 0.04], [0.42, 0.17, 0.1], 0.2 + 0.7 * stone.lot + 0.3 * pits);
			if (stone.lot > 0.88) over(out, [0.09, 0.06, 0.06], 0.7);
			over(out, [0.4, 0.37, 0.33], 1 - stands);
			shade(out, 1 + 0.25 * cloudy(u, v, 4, seed + 6, 5));
			out.roughness = 0.85 + 0.08 * (1 - stands);
		};
	},
};
