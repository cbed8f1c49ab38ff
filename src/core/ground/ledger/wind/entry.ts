import type { LandEntry } from "../../../doc/schema.ts";
import { cos, DEG, sin, smoothstep } from "../../../maths/functions.ts";
import { fractal2 } from "../../../maths/noise.ts";
import type { LandMaker } from "../entry.ts";

/** Part of a drift that rises with the wind; the lee falls on the rest. */
const WINDWARD = 0.78;

/** Drifts of sand or snow across the wind: they rise gently with it and fall steeply to the lee (Bagnold 1941). */
export const wind: LandMaker<Extract<LandEntry, { kind: "wind" }>> = {
	usual: () => ({ kind: "wind", seed: 1, sizeM: 30, heightM: 1.6, headingDeg: 60, share: 0.7 }),
	act: "Wind",
	by: "weather",
	sentence: ({ headingDeg, heightM, sizeM }) =>
		`wind towards ${headingDeg.toFixed(0)}° heaped drifts of ${say(heightM)} m, ${say(sizeM)} m from crest to crest`,
	fields: [
		{ label: "Height", value: "heightM", unit: "m", min: 0, max: 60, step: 0.05, digits: 2, ruled: true },
		{
			label: "Crest to crest",
			value: "sizeM",
			unit: "m",
			min: 0.1,
			max: 1000,
			step: 0.5,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Towards", value: "headingDeg", unit: "°", min: -180, max: 180, step: 5, digits: 0 },
		{ label: "Share", value: "share", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: ({ seed, sizeM, heightM, headingDeg, share }) => {
		const [right, away] = [sin(headingDeg * DEG), cos(headingDeg * DEG)];
		return (before, x, z) => {
			const [along, across] = [(x * right - z * away) / sizeM, (x * away + z * right) / sizeM];
			// Crests are bent and broken, longer across the wind than along it.
			const bent = along + 0.45 * fractal2(0.3 * along, 0.55 * across, seed + 300, 3);
			const f = bent - Math.floor(bent);
			const drift = smoothstep(0, WINDWARD, f) * (1 - smoothstep(WINDWARD, 1, f));
			const lot = 0.5 + 0.75 * fractal2(0.22 * along, 0.3 * across, seed + 301, 3);
			const here = smoothstep(1 - share - 0.18, 1 - share + 0.22, lot);
			return before + heightM * drift * here * (0.55 + 0.45 * lot);
		};
	},
};

const say = (v: number): string => (v < 10 ? v.toFixed(1) : v.toFixed(0));
