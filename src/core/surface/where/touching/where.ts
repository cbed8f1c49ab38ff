import type { LaidWhere } from "../../../doc/schema.ts";
import { reachFor } from "../../../volume/seams.ts";
import type { WhereMaker } from "../where.ts";

/** Share of its width in which it is whole. */
const WHOLE = 0.1;

export const touching: WhereMaker<Extract<LaidWhere, { kind: "touching" }>> = {
	usual: { kind: "touching", withinM: 0.4 },
	notOnPlants: true,
	act: "Where it touches",
	sentence: ({ withinM }) => `within ${withinM.toFixed(2)} m of what it touches`,
	fields: [{ label: "Within", value: "withinM", unit: "m", min: 0.02, max: 8, step: 0.05, digits: 2 }],
	band: ({ withinM }) => {
		const reachM = reachFor(withinM);
		const most = withinM / reachM;
		return {
			of: "volume",
			rises: [-2, -1],
			falls: [WHOLE * most, Math.min(0.999, most)],
			asks: { kind: "seams", reachM },
		};
	},
};
