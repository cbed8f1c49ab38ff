import type { LandEntry } from "../../../doc/schema.ts";
import type { LandMaker } from "../entry.ts";
import { COARSE, placeWorn, stepWords, usualPlace, wornFields } from "../worn.ts";

type Own = Extract<LandEntry, { kind: "talus" }>;

/** What stands too steep comes down and lies at its angle of repose: cliffs get their fans of rubble. */
export const talus: LandMaker<Own> = {
	usual: (x, z) => ({ kind: "talus", ...usualPlace(x, z), restDeg: 35, rounded: 0.1 }),
	act: "Wear by slope",
	by: "weather",
	sentence: (e) => `what was steeper than ${e.restDeg.toFixed(0)}° came down, ${stepWords(e)}`,
	fields: [
		{ label: "Comes to rest at", value: "restDeg", unit: "°", min: 5, max: 80, step: 1, digits: 0, ruled: true },
		{ label: "Edges rounded", value: "rounded", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		...wornFields<Own>(),
	],
	worn: ({ restDeg, rounded, ...place }) => ({ ...placeWorn(place), wear: { by: "slope", restDeg, rounded } }),
	coarse: (entry) => ({ ...entry, fineness: Math.min(entry.fineness, COARSE) }),
};
