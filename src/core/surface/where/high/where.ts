import type { LaidWhere } from "../../../doc/schema.ts";
import type { WhereMaker } from "../where.ts";

export const high: WhereMaker<Extract<LaidWhere, { kind: "high" }>> = {
	usual: { kind: "high", fromM: -0.1, toM: 0.4, softM: 0.3 },
	act: "By height",
	sentence: ({ fromM, toM }) => `from ${fromM.toFixed(2)} to ${toM.toFixed(2)} m high`,
	fields: [
		{ label: "From", value: "fromM", unit: "m", min: -5000, max: 10_000, step: 0.1, digits: 2 },
		{ label: "To", value: "toM", unit: "m", min: -5000, max: 10_000, step: 0.1, digits: 2 },
		{ label: "Soft", value: "softM", unit: "m", min: 0, max: 1000, step: 0.05, digits: 2 },
	],
	band: ({ fromM, toM, softM }) => ({
		of: "height",
		rises: [fromM - softM / 2, fromM + softM / 2],
		falls: [toM - softM / 2, toM + softM / 2],
	}),
};
