import type { LaidWhere } from "../../../doc/schema.ts";
import type { WhereMaker } from "../where.ts";

/** How far beyond where it ends it is known how far a path is, as a share of that. */
const BEYOND = 1.25;

export const beside: WhereMaker<Extract<LaidWhere, { kind: "beside" }>> = {
	usual: { kind: "beside", withinM: 0.8, soft: 0.6 },
	act: "Along paths",
	sentence: ({ withinM }) => `on paths and up to ${withinM.toFixed(2)} m beside them`,
	fields: [
		{ label: "Up to", value: "withinM", unit: "m", min: 0.05, max: 60, step: 0.1, digits: 2 },
		{ label: "Soft", value: "soft", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
	],
	band: ({ withinM, soft }) => {
		const reachM = BEYOND * withinM;
		const ends = 1 / BEYOND;
		return {
			of: "volume",
			rises: [-2, -1],
			falls: [ends * (1 - soft), Math.min(0.999, ends + 0.01)],
			asks: { kind: "paths", reachM },
		};
	},
};
