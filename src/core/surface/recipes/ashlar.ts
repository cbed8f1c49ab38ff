import { smoothstep } from "../../maths/functions.ts";
import { cloudy, courses, over, shade, strayed, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 4;
const COURSES = { rows: 10, inRow: 5, shift: 0.5, sideM: SIDE_M, strays: 0.12 };

export const ashlar: Recipe = {
	name: "ashlar, weathered",
	family: "masonry",
	sideM: SIDE_M,
	made: (seed) => {
		const stones = strayed(courses(COURSES, seed), 0.001, 20, seed);
		return (u, v, out) => {
			const stone = stones(u, v);
			const face = cloudy(u, v, 28, seed + 3, 6, 0.55);
			const worn = Math.max(0, cloudy(u, v, 9, seed + 5, 4));
			const stands = smoothstep(0.004, 0.018 + 0.03 * worn, stone.edgeM + 0.003 * face);
			out.heightMm = stands * (16 + 5 * stone.lot) + 4 * face - 10 * worn * worn;
			tint(out, [0.27, 0.245, 0.21], [0.45, 0.415, 0.355], 0.25 + 0.55 * stone.lot + 0.4 * face);
			over(out, [0.2, 0.185, 0.165], 0.8 * (1 - stands));
			over(out, [0.12, 0.115, 0.105], 1.1 * cloudy(u, v, 3, seed + 7, 5) - 0.1);
			shade(out, 1 + 0.12 * cloudy(u, v, 150, seed + 8, 2));
			out.roughness = 0.84;
		};
	},
};
