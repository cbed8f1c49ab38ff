import type { Rule } from "../../../doc/schema.ts";
import { groundSlope } from "../../../ground/height.ts";
import { atan, DEG, smoothstep } from "../../../maths/functions.ts";
import type { WhereRule } from "../rule.ts";

export const slope: WhereRule<Extract<Rule, { kind: "slope" }>> = {
	usual: { kind: "slope", out: false, maxDeg: 40, featherDeg: 10 },
	usually: 4,
	act: "By slope",
	sentence: (r) => `where the slope is below ${r.maxDeg.toFixed(0)}°`,
	fields: [{ label: "Slope", value: "maxDeg", unit: "°", min: 0, max: 90, step: 1, digits: 0 }],
	inCell: ({ maxDeg, featherDeg }, { ground }) => ({
		madeOf: [],
		weight: (x, z) => {
			const s = groundSlope(ground, x, z);
			const slopeDeg = atan(Math.hypot(s.dx, s.dz)) / DEG;
			return 1 - smoothstep(maxDeg, maxDeg + Math.max(0.01, featherDeg), slopeDeg);
		},
	}),
};
