import type { LandEntry } from "../../../doc/schema.ts";
import { smoothstep } from "../../../maths/functions.ts";
import { fractal2 } from "../../../maths/noise.ts";
import type { LandMaker } from "../entry.ts";

/** What a tread keeps of the slope that it was cut from. */
const TREAD = 0.07;

/** Steps cut into a slope: heights are drawn to levels, with risers between them. */
export const bench: LandMaker<Extract<LandEntry, { kind: "bench" }>> = {
	usual: () => ({ kind: "bench", seed: 1, everyM: 6, riser: 0.25, wander: 0.3 }),
	act: "Bench",
	by: "rock",
	sentence: ({ everyM }) => `it was cut into steps of ${everyM.toFixed(1)} m`,
	fields: [
		{
			label: "Step",
			value: "everyM",
			unit: "m",
			min: 0.2,
			max: 100,
			step: 0.1,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Riser", value: "riser", unit: "%", min: 3, max: 95, step: 1, digits: 0, times: 100, ruled: true },
		{ label: "Astray", value: "wander", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: ({ seed, everyM, riser, wander }) => {
		const across = 12 * everyM;
		return (before, x, z) => {
			const stray = 0.7 * wander * fractal2(x / across, z / across, seed + 800, 3);
			const v = before / everyM + stray;
			const k = Math.floor(v);
			const f = v - k;
			return everyM * (k + TREAD * f + (1 - TREAD) * smoothstep(1 - riser, 1, f) - stray);
		};
	},
};
