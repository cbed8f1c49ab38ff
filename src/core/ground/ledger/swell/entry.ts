import type { LandEntry } from "../../../doc/schema.ts";
import { fractal2 } from "../../../maths/noise.ts";
import type { LandMaker } from "../entry.ts";

/** Sums of seeded noise, each twice as fine as the one before. */
export const swell: LandMaker<Extract<LandEntry, { kind: "swell" }>> = {
	usual: () => ({ kind: "swell", seed: 1, sizeM: 120, heightM: 4, rough: 0.4 }),
	act: "Swell",
	by: "rock",
	sentence: ({ sizeM, heightM }) => `it swelled by ${say(heightM)} m, ${say(sizeM)} m across`,
	fields: [
		{ label: "Height", value: "heightM", unit: "m", min: 0, max: 300, step: 0.1, digits: 1, ruled: true },
		{
			label: "Across",
			value: "sizeM",
			unit: "m",
			min: 2,
			max: 5000,
			step: 1,
			digits: 0,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Rough", value: "rough", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: ({ seed, sizeM, heightM, rough }) => {
		const gain = 0.28 + 0.4 * rough;
		return (before, x, z) => before + heightM * fractal2(x / sizeM, z / sizeM, seed + 500, 6, gain);
	},
};

const say = (v: number): string => (v < 10 ? v.toFixed(1) : v.toFixed(0));
