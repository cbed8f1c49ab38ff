import type { Rule } from "../../../doc/schema.ts";
import { groundHeight } from "../../../ground/height.ts";
import { smoothstep } from "../../../maths/functions.ts";
import type { WhereRule } from "../rule.ts";

export const betweenHeights: WhereRule<Extract<Rule, { kind: "between heights" }>> = {
	usual: { kind: "between heights", out: false, fromM: 0, toM: 40, featherM: 5 },
	usually: null,
	act: "Between heights",
	sentence: ({ fromM, toM }) => `between ${fromM.toFixed(0)} and ${toM.toFixed(0)} m up`,
	fields: [
		{ label: "From", value: "fromM", unit: "m", min: -1000, max: 9000, step: 1, digits: 1 },
		{ label: "To", value: "toM", unit: "m", min: -1000, max: 9000, step: 1, digits: 1 },
		{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 1000, step: 0.5, digits: 1 },
	],
	inCell: ({ fromM, toM, featherM }, { ground }) => {
		const feather = Math.max(1e-4, featherM);
		return {
			madeOf: [],
			weight: (x, z) => {
				const y = groundHeight(ground, x, z);
				return smoothstep(fromM - feather, fromM, y) * (1 - smoothstep(toM, toM + feather, y));
			},
		};
	},
};
