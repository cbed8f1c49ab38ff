import type { LaidWhere } from "../../../doc/schema.ts";
import { NEVER, type WhereMaker } from "../where.ts";

/** How full the space about a place is where a hollow begins, and in the corner of two walls. */
const BEGINS = 0.54;
const CORNER = 0.72;

export const hollows: WhereMaker<Extract<LaidWhere, { kind: "hollows" }>> = {
	usual: { kind: "hollows", sizeM: 0.4, soft: 0.7 },
	notOnPlants: true,
	act: "In hollows",
	sentence: ({ sizeM }) => `in hollows of ${sizeM.toFixed(2)} m`,
	fields: [
		{ label: "Size", value: "sizeM", unit: "m", min: 0.01, max: 20, step: 0.05, digits: 2 },
		{ label: "Soft", value: "soft", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
	],
	band: ({ sizeM, soft }) => ({
		of: "volume",
		rises: [BEGINS, BEGINS + 0.01 + soft * (CORNER - BEGINS)],
		falls: [NEVER, 2 * NEVER],
		asks: { kind: "hollow", sizeM },
	}),
};
