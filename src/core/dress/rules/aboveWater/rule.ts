import type { Rule } from "../../../doc/schema.ts";
import { groundHeight, waterInLand } from "../../../ground/height.ts";
import { smoothstep } from "../../../maths/functions.ts";
import type { WhereRule } from "../rule.ts";

export const aboveWater: WhereRule<Extract<Rule, { kind: "above water" }>> = {
	usual: { kind: "above water", out: false, marginM: 0.02, featherM: 0.03 },
	usually: 5,
	act: "Above the water",
	sentence: () => "above the water",
	fields: [{ label: "by at least", value: "marginM", unit: "m", min: -10, max: 1000, step: 0.1, digits: 2 }],
	inCell: ({ marginM, featherM }, { ground, water }) => ({
		madeOf: [water.on, water.levelM],
		weight: (x, z) => {
			const inLand = waterInLand(ground, x, z);
			if (!water.on && inLand === null) return 1;
			const level = Math.max(water.on ? water.levelM : -Infinity, inLand ?? -Infinity);
			return smoothstep(marginM, marginM + Math.max(1e-4, featherM), groundHeight(ground, x, z) - level);
		},
	}),
};
