import type { LaidWhere } from "../../../doc/schema.ts";
import { cameraAxes } from "../../../maths/axes.ts";
import { inBox, type WhereMaker } from "../where.ts";

export const here: WhereMaker<Extract<LaidWhere, { kind: "here" }>> = {
	usual: {
		kind: "here",
		...{ at: [0, 0.5, 0], headingDeg: 0, pitchDeg: 0, turnDeg: 0 },
		...{ wideM: 1, highM: 1, deepM: 2, soft: 0 },
	},
	notOnPlants: true,
	act: "In one place",
	sentence: ({ wideM, highM }) => `in one place, ${wideM.toFixed(2)} by ${highM.toFixed(2)} m`,
	fields: [
		{ label: "Wide", value: "wideM", unit: "m", min: 0.01, max: 500, step: 0.05, digits: 2 },
		{ label: "High", value: "highM", unit: "m", min: 0.01, max: 500, step: 0.05, digits: 2 },
		{ label: "Deep", value: "deepM", unit: "m", min: 0.01, max: 500, step: 0.05, digits: 2 },
		{ label: "Turned", value: "turnDeg", unit: "°", min: -180, max: 180, step: 1, digits: 0 },
		{ label: "Soft rim", value: "soft", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
	],
	band: ({ at, headingDeg, pitchDeg, turnDeg, wideM, highM, deepM, soft }) => {
		const { right, up } = cameraAxes(headingDeg, pitchDeg, turnDeg);
		const half = [wideM / 2, highM / 2, deepM / 2] as const;
		return inBox({ at, right, up, half, soft });
	},
};
