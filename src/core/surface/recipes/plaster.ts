import { smoothstep } from "../../maths/functions.ts";
import { cloudy, over, shade, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const plaster: Recipe = {
	name: "plaster, flaking",
	family: "plaster and paving",
	sideM: 4,
	made: (seed) => (u, v, out) => {
		const trowel = cloudy(u, v, 26, seed, 4);
		const fine = cloudy(u, v, 200, seed + 1, 2);
		const off = smoothstep(0.28, 0.33, cloudy(u, v, 4, seed + 3, 6, 0.55));
		const under = cloudy(u, v, 60, seed + 4, 4);
		out.heightMm = (1 - off) * (9 + 1.4 * trowel) + off * 2.2 * under + 0.4 * fine;
		tint(out, [0.58, 0.53, 0.44], [0.72, 0.68, 0.6], 0.5 + 0.7 * cloudy(u, v, 5, seed + 6, 5));
		over(out, [0.33, 0.28, 0.22], off * (0.85 + 0.3 * under));
		shade(out, 1 + 0.05 * trowel + 0.05 * fine);
		out.roughness = 0.86;
	},
};
