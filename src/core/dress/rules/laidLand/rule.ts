import type { Rule } from "../../../doc/schema.ts";
import { wornAt } from "../../../ground/height.ts";
import { smoothstep } from "../../../maths/functions.ts";
import type { WhereRule } from "../rule.ts";

/** On what water has laid down and what has come down slopes: silt in hollows, fans of rubble. */
export const laidLand: WhereRule<Extract<Rule, { kind: "laid land" }>> = {
	usual: { kind: "laid land", out: false, fromM: 0.1, featherM: 0.2 },
	usually: null,
	act: "On what was laid",
	sentence: (r) =>
		`where wear has laid ${r.fromM < 1 ? `${(100 * r.fromM).toFixed(0)} cm` : `${r.fromM.toFixed(1)} m`} or more`,
	fields: [
		{ label: "Thick", value: "fromM", unit: "m", min: 0.001, max: 100, step: 0.05, digits: 2 },
		{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 100, step: 0.05, digits: 2 },
	],
	inCell: ({ fromM, featherM }, { ground }) => {
		if (!ground.ledger?.length) return "none";
		const worn = wornAt(ground);
		const thin = Math.max(0, fromM - featherM);
		return { madeOf: [], weight: (x, z) => smoothstep(thin, Math.max(thin + 1e-4, fromM), worn(x, z).laidM) };
	},
};
