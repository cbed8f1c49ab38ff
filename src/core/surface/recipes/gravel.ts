import { blend, type Field, field } from "../field.ts";
import type { Recipe } from "../recipe.ts";

/** Cells of stones over the square, and how high the largest stand, millimetres; small ones lie between large ones. */
const STONES = [
	[24, 26],
	[44, 16],
	[80, 9],
] as const;

export const gravel: Recipe = {
	name: "gravel",
	family: "ground",
	found: "path yard track stones grey",
	sideM: 1.5,
	depthMm: 25,
	grain: "turns",
	made: (p) => {
		let heightMm = p.cloudy({ cells: 60, octaves: 3 }).times(2).minus(6);
		let lot: Field = field(0.3);
		for (const [cells, high] of STONES) {
			const stone = p.scattered({ cells, at: p.strayed(0.004, cells) });
			const round = stone.second.minus(stone.nearest).times(1.7).round;
			const top = round.times(stone.lot.times(0.45 * high).plus(0.55 * high)).minus(4);
			lot = lot.mixed(stone.lot, top.minus(heightMm).times(4));
			heightMm = heightMm.atLeast(top);
		}
		const lit = heightMm.plus(6).by(9).held.times(0.45).plus(0.55);
		const colour = blend([0.13, 0.125, 0.12], [0.4, 0.37, 0.33], lot).times(
			lit.plus(p.cloudy({ cells: 120, octaves: 2 }).times(0.12)),
		);
		return { heightMm, colour, roughness: lot.times(0.2).plus(0.72) };
	},
};
