import { cloudy, scattered, shade, strayed, tint } from "../patterns.ts";
import type { Recipe } from "../recipe.ts";

/** Layers of stones: cells across the square, how high they stand, millimetres. */
const STONES = [
	[30, 16],
	[52, 10],
	[95, 5],
] as const;

export const gravel: Recipe = {
	name: "gravel",
	family: "ground",
	sideM: 1.5,
	made: (seed) => {
		const layers = STONES.map(([cells, high], n) => ({
			high,
			stones: strayed(scattered(cells, seed + 10 * n), 0.004, cells, seed + n),
		}));
		return (u, v, out) => {
			let [height, lot] = [-6 + 2 * cloudy(u, v, 60, seed, 3), 0.3];
			for (const { high, stones } of layers) {
				const stone = stones(u, v);
				const room = stone.second - stone.nearest;
				const round = Math.min(1, 1.7 * room);
				const top = high * (Math.sqrt(round * (2 - round)) * (0.55 + 0.45 * stone.lot)) - 4;
				if (top > height) [height, lot] = [top, stone.lot];
			}
			out.heightMm = height;
			tint(out, [0.13, 0.125, 0.12], [0.4, 0.37, 0.33], lot);
			shade(out, 0.55 + 0.45 * Math.min(1, Math.max(0, (height + 6) / 9)) + 0.12 * cloudy(u, v, 120, seed + 5, 2));
			out.roughness = 0.72 + 0.2 * lot;
		};
	},
};
