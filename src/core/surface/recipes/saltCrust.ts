import { smoothstep } from "../../maths/functions.ts";
import { cloudy, over, scattered, strayed, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const saltCrust: Recipe = {
	name: "salt crust",
	family: "salt and ice",
	sideM: 2,
	made: (seed) => {
		const plates = strayed(scattered(6, seed + 1), 0.015, 8, seed);
		const crystals = scattered(150, seed + 3);
		return (u, v, out) => {
			const plate = plates(u, v);
			const crystal = crystals(u, v);
			// Ridges where plates have grown against each other.
			const ridge = smoothstep(0.16, 0, plate.second - plate.nearest);
			const grown = cloudy(u, v, 12, seed + 5, 5);
			out.heightMm = 16 * ridge * (0.7 + 0.5 * grown) + 3 * grown + 2.2 * (0.7 - crystal.nearest) * crystal.lot;
			tint(out, [0.62, 0.6, 0.56], [0.86, 0.85, 0.83], 0.55 + 0.5 * grown + 0.4 * ridge);
			over(out, [0.42, 0.35, 0.28], 0.45 * smoothstep(0.1, 0.5, -grown) * (1 - ridge));
			out.roughness = 0.5 + 0.3 * crystal.lot;
		};
	},
};
