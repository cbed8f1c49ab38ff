import type { LandEntry } from "../../../doc/schema.ts";
import { millimetres, smoothstep } from "../../../maths/functions.ts";
import type { LandMaker } from "../entry.ts";

/** A place brought to one height, with a bank around it. */
export const level: LandMaker<Extract<LandEntry, { kind: "level" }>> = {
	usual: (x, z) => ({ kind: "level", x: millimetres(x), z: millimetres(z), radiusM: 8, featherM: 6, atM: 0 }),
	act: "Level off",
	by: "people",
	sentence: ({ radiusM, atM }) => `it was levelled to ${atM.toFixed(1)} m for ${radiusM.toFixed(1)} m about a place`,
	fields: [
		{ label: "At", value: "atM", unit: "m", min: -50, max: 200, step: 0.1, digits: 1, ruled: true },
		{
			label: "About it",
			value: "radiusM",
			unit: "m",
			min: 0.5,
			max: 500,
			step: 0.5,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Bank", value: "featherM", unit: "m", min: 0.1, max: 500, step: 0.5, digits: 1 },
		{ label: "Right", value: "x", unit: "m", min: -1e6, max: 1e6, step: 0.5, digits: 1 },
		{ label: "Away", value: "z", unit: "m", min: -1e6, max: 1e6, step: 0.5, digits: 1, times: -1 },
	],
	made:
		({ x: ox, z: oz, radiusM, featherM, atM }) =>
		(before, x, z) => {
			const far = Math.sqrt((x - ox) * (x - ox) + (z - oz) * (z - oz));
			return atM + (before - atM) * smoothstep(radiusM, radiusM + featherM, far);
		},
};
