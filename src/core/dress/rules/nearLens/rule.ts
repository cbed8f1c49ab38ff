import type { Rule } from "../../../doc/schema.ts";
import { smoothstep } from "../../../maths/functions.ts";
import { CELL_M, type WhereRule } from "../rule.ts";

export const nearLens: WhereRule<Extract<Rule, { kind: "near the lens" }>> = {
	usual: { kind: "near the lens", out: false, distanceM: 60, featherM: 30 },
	usually: 2,
	act: "Near the lens",
	sentence: (r) => `within ${r.distanceM.toFixed(0)} m of the lens`,
	fields: [
		{ label: "Distance", value: "distanceM", unit: "m", min: 0.5, max: 3000, step: 5, digits: 1 },
		{ label: "Feather", value: "featherM", unit: "m", min: 0, max: 3000, step: 5, digits: 1 },
	],
	farthestM: (r) => r.distanceM + r.featherM,
	inCell: ({ distanceM, featherM }, { camera }, cell) => {
		const [lx, , lz] = camera.position;
		const fx = Math.max(Math.abs(lx - cell.x * CELL_M), Math.abs(lx - (cell.x + 1) * CELL_M));
		const fz = Math.max(Math.abs(lz - cell.z * CELL_M), Math.abs(lz - (cell.z + 1) * CELL_M));
		if (Math.hypot(fx, fz) <= distanceM - featherM) return "all";
		return {
			madeOf: [lx, lz],
			weight: (x, z) => 1 - smoothstep(distanceM - featherM, distanceM + featherM, Math.hypot(x - lx, z - lz)),
		};
	},
};
