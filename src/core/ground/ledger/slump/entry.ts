import type { LandEntry } from "../../../doc/schema.ts";
import { cos, DEG, sin } from "../../../maths/functions.ts";
import { fractal2 } from "../../../maths/noise.ts";
import { type CellPoint, pointsAbout } from "../cells.ts";
import type { LandMaker } from "../entry.ts";

/** Half of a slide's width, in cells. */
const HALF = 0.42;

/** Slides: a hollow under a scar above, and below it the tongue of what has come down, as much as is missing. */
export const slump: LandMaker<Extract<LandEntry, { kind: "slump" }>> = {
	usual: () => ({ kind: "slump", seed: 1, sizeM: 70, dropM: 5, share: 0.5, headingDeg: 180 }),
	act: "Slump",
	by: "weather",
	sentence: ({ sizeM, dropM, headingDeg }) =>
		`it slid towards ${headingDeg.toFixed(0)}° in tongues of ${sizeM.toFixed(0)} m, ${dropM.toFixed(1)} m deep`,
	fields: [
		{ label: "Depth", value: "dropM", unit: "m", min: 0, max: 100, step: 0.5, digits: 1, ruled: true },
		{
			label: "Across",
			value: "sizeM",
			unit: "m",
			min: 2,
			max: 1000,
			step: 1,
			digits: 0,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Share", value: "share", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		{ label: "Towards", value: "headingDeg", unit: "°", min: -180, max: 180, step: 5, digits: 0 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: ({ seed, sizeM, dropM, share, headingDeg }) => {
		const about: CellPoint[] = [];
		const [right, away] = [sin(headingDeg * DEG), cos(headingDeg * DEG)];
		return (before, x, z) => {
			const bend = 0.12 * fractal2(x / (0.35 * sizeM), z / (0.35 * sizeM), seed + 950, 3);
			const [cx, cz] = [x / sizeM + bend, z / sizeM - bend];
			let sum = 0;
			for (const p of pointsAbout(cx, cz, seed + 951, about)) {
				if (p.lot >= share || p.far >= HALF) continue;
				const q = 1 - (p.far / HALF) ** 2;
				// Down its way from −1 at the scar to 1 at the tip: what sinks above is heaped up below.
				const down = ((cx - p.x) * right - (cz - p.z) * away) / HALF;
				sum += q * q * down * 2.6;
			}
			return before + dropM * sum;
		};
	},
};
