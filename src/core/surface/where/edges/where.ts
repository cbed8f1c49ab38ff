import type { LaidWhere } from "../../../doc/schema.ts";
import type { WhereMaker } from "../where.ts";

/** How full the space about a place is at the edge of two walls, and where an edge ends. */
const EDGE = 0.28;
const ENDS = 0.46;

export const edges: WhereMaker<Extract<LaidWhere, { kind: "edges" }>> = {
	usual: { kind: "edges", sizeM: 0.15, soft: 0.6 },
	notOnPlants: true,
	act: "Along its edges",
	sentence: ({ sizeM }) => `along edges, ${sizeM.toFixed(2)} m wide`,
	fields: [
		{ label: "Width", value: "sizeM", unit: "m", min: 0.01, max: 20, step: 0.02, digits: 2 },
		{ label: "Soft", value: "soft", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
	],
	band: ({ sizeM, soft }) => ({
		of: "volume",
		rises: [-2, -1],
		falls: [ENDS - 0.01 - soft * (ENDS - EDGE), ENDS],
		asks: { kind: "hollow", sizeM },
	}),
};
