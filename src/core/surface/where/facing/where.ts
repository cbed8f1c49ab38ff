import type { LaidWhere } from "../../../doc/schema.ts";
import { cos, DEG } from "../../../maths/functions.ts";
import { NEVER, type WhereMaker } from "../where.ts";

const lean = (deg: number): number => 1 - cos(Math.min(180, Math.max(0, deg)) * DEG);

/** A band with soft ends; what begins at 0 or ends at 180 has none there. */
export const facing: WhereMaker<Extract<LaidWhere, { kind: "facing" }>> = {
	usual: { kind: "facing", fromDeg: 0, toDeg: 40, softDeg: 15 },
	act: "By how it faces",
	sentence: ({ fromDeg, toDeg }) =>
		fromDeg <= 0
			? `where it leans less than ${toDeg.toFixed(0)}°`
			: toDeg >= 180
				? `where it leans more than ${fromDeg.toFixed(0)}°`
				: `where it leans ${fromDeg.toFixed(0)} to ${toDeg.toFixed(0)}°`,
	fields: [
		{ label: "From", value: "fromDeg", unit: "°", min: 0, max: 180, step: 1, digits: 0 },
		{ label: "To", value: "toDeg", unit: "°", min: 0, max: 180, step: 1, digits: 0 },
		{ label: "Soft", value: "softDeg", unit: "°", min: 0, max: 90, step: 1, digits: 0 },
	],
	band: ({ fromDeg, toDeg, softDeg }) => ({
		of: "lean",
		rises: fromDeg <= 0 ? [-2, -1] : [lean(fromDeg - softDeg / 2), lean(fromDeg + softDeg / 2)],
		falls: toDeg >= 180 ? [NEVER, 2 * NEVER] : [lean(toDeg - softDeg / 2), lean(toDeg + softDeg / 2)],
	}),
};
