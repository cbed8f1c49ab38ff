import type { Rule } from "../../../doc/schema.ts";
import { groundHeight } from "../../../ground/height.ts";
import { cos, sin, smoothstep, TAU } from "../../../maths/functions.ts";
import type { WhereRule } from "../rule.ts";

/** Places about one by whose mean it is told how far it lies in a hollow. */
const ROUND = Array.from({ length: 8 }, (_, i) => [cos((TAU * i) / 8), sin((TAU * i) / 8)] as const);

/** Where the ground lies below what is about it: what is blown together, what keeps wet. */
export const inHollows: WhereRule<Extract<Rule, { kind: "in hollows" }>> = {
	usual: { kind: "in hollows", out: false, deepM: 0.3, aboutM: 5, featherM: 0.2 },
	usually: null,
	act: "In hollows",
	sentence: ({ deepM, aboutM }) => `where it lies ${deepM.toFixed(2)} m below what is ${aboutM.toFixed(1)} m about it`,
	fields: [
		{ label: "Deep", value: "deepM", unit: "m", min: 0.01, max: 100, step: 0.05, digits: 2 },
		{ label: "About", value: "aboutM", unit: "m", min: 0.1, max: 1000, step: 0.5, digits: 1 },
		{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 100, step: 0.05, digits: 2 },
	],
	inCell: ({ deepM, aboutM, featherM }, { ground }) => ({
		madeOf: [],
		weight: (x, z) => {
			let sum = 0;
			for (const [dx, dz] of ROUND) sum += groundHeight(ground, x + aboutM * dx, z + aboutM * dz);
			const under = sum / ROUND.length - groundHeight(ground, x, z);
			return smoothstep(deepM - Math.max(1e-4, featherM), deepM, under);
		},
	}),
};
