import { smoothstep } from "../../maths/functions.ts";
import { cloudy, over, shade, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

export const rustedIron: Recipe = {
	name: "iron, painted and rusted",
	family: "metal",
	sideM: 2,
	made: (seed) => (u, v, out) => {
		const far = cloudy(u, v, 4, seed, 6, 0.58);
		const off = smoothstep(0, 0.1, far);
		const scale = cloudy(u, v, 60, seed + 3, 5, 0.6);
		const blister = smoothstep(-0.16, 0, far) * (1 - off);
		out.heightMm = (1 - off) * (1.6 + 1.2 * blister) + off * (0.9 * scale + 0.6);
		tint(out, [0.06, 0.12, 0.115], [0.09, 0.17, 0.16], 0.5 + cloudy(u, v, 7, seed + 5, 4));
		const rust = 0.5 + 0.9 * scale;
		over(out, [0.14 + 0.16 * rust, 0.045 + 0.06 * rust, 0.015 + 0.02 * rust], Math.max(off, 0.35 * blister));
		shade(out, 1 + 0.1 * scale);
		out.roughness = 0.42 + 0.45 * off + 0.1 * blister;
	},
};
