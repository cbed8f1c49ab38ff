import { smoothstep } from "../../maths/functions.ts";
import { cloudy, over, scattered, shade, strayed, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const moss: Recipe = {
	name: "moss cushions",
	family: "grown",
	sideM: 1.5,
	made: (seed) => {
		const cushions = strayed(scattered(11, seed + 1), 0.02, 12, seed);
		const tips = scattered(130, seed + 3);
		return (u, v, out) => {
			const cushion = cushions(u, v);
			const tip = tips(u, v);
			const room = Math.min(1, 1.5 * (cushion.second - cushion.nearest));
			const round = Math.sqrt(room * (2 - room));
			const tuft = smoothstep(0.75, 0.1, tip.nearest);
			out.heightMm = 24 * round * (0.6 + 0.4 * cushion.lot) + 5 * tuft + 3 * cloudy(u, v, 40, seed + 5, 3);
			tint(out, [0.035, 0.06, 0.012], [0.13, 0.19, 0.035], 0.25 + 0.4 * cushion.lot + 0.5 * tuft * round);
			over(out, [0.15, 0.12, 0.04], 0.9 * cloudy(u, v, 3, seed + 7, 4));
			shade(out, 0.35 + 0.65 * Math.max(round, 0.3 * tuft));
			out.roughness = 0.95;
		};
	},
};
