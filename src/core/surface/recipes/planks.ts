import { smoothstep } from "../../maths/functions.ts";
import { courses, drawnOut, over, shade, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

const SIDE_M = 2;
const COURSES = { rows: 12, inRow: 1, shift: 0.37, sideM: SIDE_M, strays: 1 };

export const planks: Recipe = {
	name: "planks, weathered",
	family: "wood",
	sideM: SIDE_M,
	made: (seed) => {
		const boards = courses(COURSES, seed);
		return (u, v, out) => {
			const board = boards(u, v);
			const own = seed + Math.floor(1000 * board.lot);
			const grain = drawnOut(u, v + 0.004 * drawnOut(u, v, 4, 24, own + 3, 2), 3, 170, own, 3);
			const fine = drawnOut(u, v, 14, 700, own + 1, 2);
			const cracks = smoothstep(0.62, 0.8, drawnOut(u, v, 2, 110, own + 2, 1));
			const lies = smoothstep(0, 0.006, board.edgeM);
			out.heightMm = 12 * lies + 2.5 * board.lot + 1.3 * grain + 0.5 * fine - 4 * cracks;
			tint(out, [0.2, 0.165, 0.13], [0.36, 0.33, 0.29], 0.35 + 0.45 * board.lot + 0.35 * grain);
			over(out, [0.09, 0.07, 0.055], 0.8 * cracks);
			shade(out, (0.25 + 0.75 * lies) * (1 + 0.2 * fine));
			out.roughness = 0.8 + 0.1 * grain;
		};
	},
};
