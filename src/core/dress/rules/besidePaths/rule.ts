import type { Rule } from "../../../doc/schema.ts";
import { farFromPaths } from "../../../ground/height.ts";
import { smoothstep } from "../../../maths/functions.ts";
import { CELL_M, type WhereRule } from "../rule.ts";

export const besidePaths: WhereRule<Extract<Rule, { kind: "beside paths" }>> = {
	usual: { kind: "beside paths", out: false, fromM: 0, toM: 2, featherM: 0.5 },
	usually: null,
	act: "Beside paths",
	sentence: ({ fromM, toM }) =>
		`beside paths, ${fromM > 0 ? `${fromM.toFixed(1)} to ` : "up to "}${toM.toFixed(1)} m off`,
	fields: [
		{ label: "From", value: "fromM", unit: "m", min: 0, max: 100, step: 0.5, digits: 1 },
		{ label: "To", value: "toM", unit: "m", min: 0, max: 150, step: 0.5, digits: 1 },
		{ label: "Feather", value: "featherM", unit: "m", min: 0, max: 40, step: 0.1, digits: 1 },
	],
	inCell: ({ fromM, toM, featherM }, { ground }, { x: i, z: j }) => {
		const far = farFromPaths(ground);
		if (!far) return "none";
		// No place of a cell is farther from its middle than half of its diagonal.
		const middle = far((i + 0.5) * CELL_M, (j + 0.5) * CELL_M);
		if (middle - CELL_M * Math.SQRT1_2 > toM + featherM) return "none";
		const feather = Math.max(1e-4, featherM);
		return {
			madeOf: [],
			weight: (x, z) => {
				const d = far(x, z);
				return (
					(1 - smoothstep(toM - feather, toM + feather, d)) *
					(fromM > 0 ? smoothstep(fromM - feather, fromM + feather, d) : 1)
				);
			},
		};
	},
};
