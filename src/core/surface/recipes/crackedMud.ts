import { smoothstep } from "../../maths/functions.ts";
import { cloudy, scattered, shade, strayed, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const crackedMud: Recipe = {
	name: "mud, dried and cracked",
	family: "ground",
	sideM: 2,
	made: (seed) => {
		const plates = strayed(scattered(9, seed + 1), 0.02, 9, seed);
		return (u, v, out) => {
			const plate = plates(u, v);
			const gap = plate.second - plate.nearest;
			const lies = smoothstep(0.02, 0.1, gap);
			// Plates curl up at their rims.
			const curl = smoothstep(0.5, 0.08, gap);
			out.heightMm = 14 * lies + 7 * curl * lies + 3 * plate.lot + 1.6 * cloudy(u, v, 40, seed + 7, 4);
			tint(
				out,
				[0.27, 0.22, 0.17],
				[0.4, 0.34, 0.27],
				0.5 * plate.lot + 0.4 * curl + 0.4 * cloudy(u, v, 14, seed + 8, 4),
			);
			shade(out, 0.3 + 0.7 * lies);
			out.roughness = 0.86;
		};
	},
};
