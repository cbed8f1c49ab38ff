import type { LaidWhere } from "../../../doc/schema.ts";
import { rainShare } from "../../../volume/columns.ts";
import { NEVER, type WhereMaker } from "../where.ts";

export const rain: WhereMaker<Extract<LaidWhere, { kind: "rain" }>> = {
	usual: { kind: "rain", fromM2: 200, times: 4 },
	act: "Where water runs",
	sentence: ({ fromM2 }) =>
		`where the rain of ${fromM2 < 1e4 ? `${fromM2.toFixed(0)} m²` : `${(fromM2 / 1e4).toFixed(1)} ha`} comes by`,
	fields: [
		{ label: "Rain of", value: "fromM2", unit: "m²", min: 1, max: 1e6, step: 10, digits: 0, logarithmic: true },
		{ label: "Fades over", value: "times", unit: "×", min: 1, max: 100, step: 0.5, digits: 1 },
	],
	band: ({ fromM2, times }) => ({
		of: "volume",
		rises: [rainShare(fromM2 / times), rainShare(fromM2) + 1e-3],
		falls: [NEVER, 2 * NEVER],
		asks: { kind: "rain" },
	}),
};
