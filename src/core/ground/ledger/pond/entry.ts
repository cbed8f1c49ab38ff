import type { LandEntry } from "../../../doc/schema.ts";
import { millimetres } from "../../../maths/functions.ts";
import { pondsIn } from "../../water/ponds.ts";
import type { LandMaker } from "../entry.ts";

type Own = Extract<LandEntry, { kind: "pond" }>;

/** Fineness while a hand waits. */
const COARSE = 6;

/** Water that fills hollows up to their rim. */
export const pond: LandMaker<Own> = {
	usual: (x, z) => ({
		kind: "pond",
		x: millimetres(x),
		z: millimetres(z),
		radiusM: 30,
		fineness: 8,
		leastM: 0.15,
		share: 0.85,
		digM: 0,
	}),
	act: "Ponds",
	by: "weather",
	sentence: ({ share, radiusM, leastM }) =>
		`hollows deeper than ${leastM.toFixed(2)} m within ${radiusM.toFixed(0)} m filled to ${Math.round(share * 100)} %`,
	fields: [
		{ label: "Filled", value: "share", unit: "%", min: 2, max: 100, step: 1, digits: 0, times: 100, ruled: true },
		{
			label: "Within",
			value: "radiusM",
			unit: "m",
			min: 1,
			max: 5000,
			step: 1,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Deeper than", value: "leastM", unit: "m", min: 0.01, max: 50, step: 0.05, digits: 2 },
		{ label: "Dug by", value: "digM", unit: "m", min: 0, max: 50, step: 0.1, digits: 2 },
		{ label: "Fineness", value: "fineness", unit: "", min: 5, max: 10, step: 1, digits: 0, whole: true },
		{ label: "Right", value: "x", unit: "m", min: -1e6, max: 1e6, step: 0.5, digits: 1 },
		{ label: "Away", value: "z", unit: "m", min: -1e6, max: 1e6, step: 0.5, digits: 1, times: -1 },
	],
	made: ({ x: ox, z: oz, radiusM, digM }) => {
		if (digM === 0) return (before) => before;
		return (before, x, z) => {
			const share = ((x - ox) * (x - ox) + (z - oz) * (z - oz)) / (radiusM * radiusM);
			// Round like the biweight of Beaton and Tukey (1974).
			return share < 1 ? before - digM * (1 - share) ** 2 : before;
		};
	},
	water: ({ fineness, ...of }, land, weight) => pondsIn({ ...of, cells: 2 ** fineness }, land, weight),
	// Of a pond that digs nothing the land knows nothing.
	shapes: ({ kind, x, z, radiusM, digM, where }) => (digM === 0 ? { kind } : { kind, x, z, radiusM, digM, where }),
	coarse: (entry) => ({ ...entry, fineness: Math.min(entry.fineness, COARSE) }),
};
