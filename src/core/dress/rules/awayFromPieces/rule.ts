import type { Rule } from "../../../doc/schema.ts";
import { smoothstep } from "../../../maths/functions.ts";
import { distanceTo } from "../../footprints.ts";
import { gapTo, type WhereRule } from "../rule.ts";

export const awayFromPieces: WhereRule<Extract<Rule, { kind: "away from pieces" }>> = {
	usual: { kind: "away from pieces", out: false, widthM: 0.3, featherM: 0.5 },
	usually: 3,
	ofPieces: true,
	act: "Away from pieces",
	sentence: (r) => `not within ${r.widthM.toFixed(2)} m of a piece`,
	fields: [
		{ label: "Width", value: "widthM", unit: "m", min: 0, max: 200, step: 0.1, digits: 2 },
		{ label: "Feather", value: "featherM", unit: "m", min: 0, max: 200, step: 0.1, digits: 2 },
	],
	inCell: ({ widthM, featherM }, { footprints }, cell) => {
		const most = widthM + featherM;
		const near = footprints.filter((f) => {
			const reach = f.reach + most;
			const gx = gapTo(f.x, cell.x);
			return gx <= reach && Math.hypot(gx, gapTo(f.z, cell.z)) <= reach;
		});
		if (near.length === 0) return "all";
		return {
			madeOf: near.map((f) => [f.x, f.z, f.key]),
			weight: (x, z) => {
				let nearest = most;
				for (const f of near) nearest = distanceTo(f, x, z, nearest);
				return featherM > 0 ? smoothstep(widthM, most, nearest) : nearest >= widthM ? 1 : 0;
			},
		};
	},
};
