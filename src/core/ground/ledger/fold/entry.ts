import type { LandEntry } from "../../../doc/schema.ts";
import { cos, DEG, sin, TAU } from "../../../maths/functions.ts";
import { fractal2 } from "../../../maths/noise.ts";
import type { LandMaker } from "../entry.ts";

/** Waves along a way, bent by noise and uneven along their crests. */
export const fold: LandMaker<Extract<LandEntry, { kind: "fold" }>> = {
	usual: () => ({ kind: "fold", seed: 1, headingDeg: 20, lengthM: 220, heightM: 14, sharp: 0.3, wander: 0.5 }),
	act: "Fold",
	by: "rock",
	sentence: ({ lengthM, heightM, headingDeg }) =>
		`it was folded, crests of ${heightM.toFixed(0)} m every ${lengthM.toFixed(0)} m across ${headingDeg.toFixed(0)}°`,
	fields: [
		{ label: "Height", value: "heightM", unit: "m", min: 0, max: 600, step: 0.5, digits: 1, ruled: true },
		{
			label: "From crest to crest",
			value: "lengthM",
			unit: "m",
			min: 4,
			max: 5000,
			step: 1,
			digits: 0,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Heading across", value: "headingDeg", unit: "°", min: -180, max: 180, step: 5, digits: 0 },
		{ label: "Sharp", value: "sharp", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		{ label: "Astray", value: "wander", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: ({ seed, headingDeg, lengthM, heightM, sharp, wander }) => {
		const [right, away] = [sin(headingDeg * DEG), cos(headingDeg * DEG)];
		return (before, x, z) => {
			const stray = fractal2(x / (2.4 * lengthM), z / (2.4 * lengthM), seed + 600, 4, 0.5);
			const turns = (x * right - z * away) / lengthM + 0.55 * wander * stray;
			const crest = 1 - Math.abs(2 * (turns - Math.floor(turns)) - 1);
			const round = 0.5 - 0.5 * cos(TAU * turns);
			const uneven = 1 + 0.35 * wander * fractal2(x / (1.7 * lengthM), z / (1.7 * lengthM), seed + 607, 2);
			return before + heightM * uneven * (round + (crest - round) * sharp);
		};
	},
};
