import type { Rule } from "../../../doc/schema.ts";
import { smoothstep } from "../../../maths/functions.ts";
import { fractal2 } from "../../../maths/noise.ts";
import type { WhereRule } from "../rule.ts";

export const patches: WhereRule<Extract<Rule, { kind: "patches" }>> = {
	usual: { kind: "patches", out: false, sizeM: 6, share: 0.4, featherM: 0.3 },
	usually: null,
	act: "In patches",
	sentence: (r) => `in patches, on ${Math.round(r.share * 100)} % of the ground`,
	fields: [
		{ label: "Across", value: "sizeM", unit: "m", min: 0.2, max: 1000, step: 1, digits: 1 },
		{ label: "Share", value: "share", unit: "%", min: 2, max: 100, step: 5, digits: 0, times: 100 },
	],
	inCell: ({ sizeM, share, featherM }, { cover }) => ({
		madeOf: [],
		weight: (x, z) => {
			const n = 0.5 + 0.5 * fractal2(x / sizeM, z / sizeM, cover.seed + 400, 3);
			const edge = 1 - share;
			const soft = 0.02 + 0.3 * featherM;
			return smoothstep(edge - soft, edge + soft, 0.5 + (n - 0.5) * 2.2);
		},
	}),
};
