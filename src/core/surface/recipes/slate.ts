import { cloudy, drawnOut, over, shade, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const slate: Recipe = {
	name: "slate, cleft",
	family: "rock",
	sideM: 2,
	made: (seed) => (u, v, out) => {
		const lean = 0.05 * cloudy(u, v, 2, seed + 3, 3);
		const leaves = drawnOut(u, v + lean, 3, 40, seed, 3);
		const step = Math.round(5 * leaves) / 5;
		const fine = drawnOut(u, v + lean, 24, 300, seed + 5, 2);
		const broken = cloudy(u, v, 5, seed + 11, 5);
		out.heightMm = 14 * step + 3 * leaves + 0.8 * fine + 9 * broken;
		tint(out, [0.085, 0.092, 0.105], [0.19, 0.2, 0.215], 0.5 + 0.7 * leaves);
		over(out, [0.24, 0.16, 0.1], 1.4 * cloudy(u, v, 3, seed + 21, 5) - 0.25);
		shade(out, 1 + 0.16 * fine);
		out.roughness = 0.55 + 0.25 * Math.abs(broken);
	},
};
