import { smoothstep } from "../../maths/functions.ts";
import { cloudy, over, scattered, shade, strayed, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const cobbles: Recipe = {
	name: "cobbles",
	family: "plaster and paving",
	sideM: 2,
	made: (seed) => {
		const stones = strayed(scattered(16, seed + 1), 0.006, 20, seed);
		return (u, v, out) => {
			const stone = stones(u, v);
			const room = Math.min(1, 2.1 * (stone.second - stone.nearest));
			const round = Math.sqrt(room * (2 - room));
			const rough = cloudy(u, v, 70, seed + 3, 4);
			out.heightMm = 30 * round + 5 * stone.lot + 1.4 * rough;
			tint(out, [0.16, 0.15, 0.14], [0.33, 0.31, 0.29], stone.lot + 0.3 * rough);
			over(out, [0.13, 0.105, 0.075], smoothstep(0.75, 0.35, round));
			shade(out, 1 + 0.1 * rough);
			// Feet and wheels have smoothed their crowns.
			out.roughness = 0.85 - 0.35 * smoothstep(0.7, 1, round);
		};
	},
};
