import type { LandEntry } from "../../../doc/schema.ts";
import type { LandMaker } from "../entry.ts";
import { COARSE, placeWorn, stepWords, usualPlace, wornFields } from "../worn.ts";

type Own = Extract<LandEntry, { kind: "water" }>;

/** Rain that runs together, cuts valleys into the land and lays what it carries in hollows and at the foot. */
export const water: LandMaker<Own> = {
	usual: (x, z) => ({ kind: "water", ...usualPlace(x, z), seed: 1, power: 0.4, laying: 0.5, restDeg: 42 }),
	act: "Wear by water",
	by: "weather",
	sentence: (e) => `rain cut it by ${Math.round(e.power * 100)} %, ${stepWords(e)}`,
	fields: [
		{ label: "Cut", value: "power", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100, ruled: true },
		{ label: "Laid again", value: "laying", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100 },
		{ label: "Banks stay at", value: "restDeg", unit: "°", min: 5, max: 80, step: 1, digits: 0 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
		...wornFields<Own>(),
	],
	worn: ({ power, laying, restDeg, seed, ...place }) => ({
		...placeWorn(place),
		wear: { by: "water", power, laying, restDeg, seed },
	}),
	coarse: (entry) => ({ ...entry, fineness: Math.min(entry.fineness, COARSE) }),
};
