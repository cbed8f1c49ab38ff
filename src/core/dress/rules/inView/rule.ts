import type { Ground, Rule } from "../../../doc/schema.ts";
import { groundHeight } from "../../../ground/height.ts";
import { type FrameOfView, project } from "../../../lens/camera.ts";
import { CELL_M, type Cell, type WhereRule } from "../rule.ts";

export const inView: WhereRule<Extract<Rule, { kind: "in view" }>> = {
	usual: { kind: "in view", out: false, marginPercent: 5 },
	usually: 1,
	act: "In the frame",
	sentence: () => "in the frame",
	fields: [{ label: "and a margin of", value: "marginPercent", unit: "%", min: 0, max: 100, step: 1, digits: 0 }],
	inCell: ({ marginPercent }, { views, ground }, cell) => {
		const m = marginPercent / 100;
		const box = boxOf(ground, cell);
		const across: FrameOfView[] = [];
		for (const view of views) {
			const lies = cellLies(m, view, box);
			if (lies === "all") return "all";
			if (lies === "across") across.push(view);
		}
		if (across.length === 0) return "none";
		return {
			madeOf: across.map(({ position, middle, right, up, tanX, tanY }) => [position, middle, right, up, tanX, tanY]),
			weight: (x, z) => {
				const y = groundHeight(ground, x, z);
				return across.some((view) => seenIn(view, m, x, y, z)) ? 1 : 0;
			},
		};
	},
};

/** Whether a plant at a place of the ground is seen, with a margin. */
function seenIn(view: FrameOfView, m: number, x: number, y: number, z: number): boolean {
	const foot = project(view, [x, y, z]);
	const head = project(view, [x, y + 0.5, z]);
	if (foot.depthM <= 0.05) return false;
	return foot.x >= -m && foot.x <= 1 + m && head.y <= 1 + m && foot.y >= -m;
}

type Corner = [number, number, number];

/** Corners of a box about the ground of a cell and what grows on it. */
function boxOf(ground: Ground, cell: Cell): Corner[] {
	let low = Infinity;
	let high = -Infinity;
	for (let j = 0; j <= 2; j++)
		for (let i = 0; i <= 2; i++) {
			const y = groundHeight(ground, (cell.x + i / 2) * CELL_M, (cell.z + j / 2) * CELL_M);
			low = Math.min(low, y);
			high = Math.max(high, y);
		}
	return Array.from({ length: 8 }, (_, k) => [
		(cell.x + (k & 1)) * CELL_M,
		k & 4 ? high + 2 : low - 2,
		(cell.z + ((k >> 1) & 1)) * CELL_M,
	]);
}

/** Whether a cell lies inside, outside or across a frame, by the corners of its box. */
function cellLies(m: number, view: FrameOfView, box: readonly Corner[]): "all" | "none" | "across" {
	let inside = 0;
	const out = [0, 0, 0, 0, 0];
	for (const corner of box) {
		const p = project(view, corner);
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
