import type { Rule } from "../../../doc/schema.ts";
import { groundHeight } from "../../../ground/height.ts";
import { project } from "../../../lens/camera.ts";
import { CELL_M, type Cell, type Surroundings, type WhereRule } from "../rule.ts";

export const inView: WhereRule<Extract<Rule, { kind: "in view" }>> = {
	usual: { kind: "in view", out: false, marginPercent: 5 },
	usually: 1,
	act: "In the frame",
	sentence: () => "in the frame",
	fields: [{ label: "and a margin of", value: "marginPercent", unit: "%", min: 0, max: 100, step: 1, digits: 0 }],
	inCell: ({ marginPercent }, around, cell) => {
		const m = marginPercent / 100;
		const lies = cellLies(m, around, cell);
		if (lies !== "across") return lies;
		const { camera, view, ground } = around;
		const { position, headingDeg, pitchDeg, rollDeg, film, ratio, focalMm } = camera;
		return {
			madeOf: [position, headingDeg, pitchDeg, rollDeg, film, ratio, focalMm],
			weight: (x, z) => {
				const y = groundHeight(ground, x, z);
				const foot = project(view, [x, y, z]);
				const head = project(view, [x, y + 0.5, z]);
				if (foot.depthM <= 0.05) return 0;
				return foot.x >= -m && foot.x <= 1 + m && head.y <= 1 + m && foot.y >= -m ? 1 : 0;
			},
		};
	},
};

/** Whether a cell lies inside, outside or across the frame, by the corners of a box about its ground. */
function cellLies(m: number, { view, ground }: Surroundings, cell: Cell): "all" | "none" | "across" {
	let low = Infinity;
	let high = -Infinity;
	for (let j = 0; j <= 2; j++)
		for (let i = 0; i <= 2; i++) {
			const y = groundHeight(ground, (cell.x + i / 2) * CELL_M, (cell.z + j / 2) * CELL_M);
			low = Math.min(low, y);
			high = Math.max(high, y);
		}
	let inside = 0;
	const out = [0, 0, 0, 0, 0];
	for (let k = 0; k < 8; k++) {
		const corner = [(cell.x + (k & 1)) * CELL_M, k & 4 ? high + 2 : low - 2, (cell.z + ((k >> 1) & 1)) * CELL_M];
		const p = project(view, corner as [number, number, number]);
		if (p.depthM <= 0.01) {
			out[4]++;
			continue;
		}
		if (p.x < -m) out[0]++;
		else if (p.x > 1 + m) out[1]++;
		if (p.y < -m) out[2]++;
		else if (p.y > 1 + m) out[3]++;
		if (p.x >= -m && p.x <= 1 + m && p.y >= -m && p.y <= 1 + m) inside++;
	}
	if (inside === 8) return "all";
	return out.some((n) => n === 8) ? "none" : "across";
}
