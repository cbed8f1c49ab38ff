import type { LandEntry } from "../../../doc/schema.ts";
import { cos, millimetres, sin, TAU } from "../../../maths/functions.ts";
import type { LandMaker } from "../entry.ts";
import { grainAlong, smallest } from "../grain.ts";
import { farFromLine, strokesAbout, TOOLS } from "./strokes.ts";

/** Places about one by whose mean it is smoothed, and how far off they lie, as shares of the stroke's radius. */
const ABOUT = 6;
const RINGS = [0.3, 0.6];

/** Strokes of a brush over the land, one after the other. */
export const hand: LandMaker<Extract<LandEntry, { kind: "hand" }>> = {
	usual: (x, z) => ({
		kind: "hand",
		strokes: [{ tool: "raise", points: [[millimetres(x), millimetres(z)]], radiusM: 8, byM: 2 }],
	}),
	act: "Shape by hand",
	by: "hand",
	sentence: ({ strokes }) => `it was shaped by hand, ${strokes.length} ${strokes.length === 1 ? "stroke" : "strokes"}`,
	fields: [],
	grain: ({ strokes }) =>
		smallest(
			strokes.map(({ points, radiusM, tool }) =>
				grainAlong(points.length > 1 ? points : [points[0], points[0]], radiusM, radiusM * TOOLS[tool].grain),
			),
		) ?? (() => Infinity),
	made: ({ strokes }, land) => {
		const about = strokesAbout(strokes);
		const fars = strokes.map(farFromLine);
		/** Smoothing looks at the land as others have left it, not at what other smoothing has. */
		const after = (start: number, x: number, z: number, upTo: number, smooths: boolean): number => {
			let height = start;
			for (const n of about(x, z)) {
				if (n >= upTo) break;
				const stroke = strokes[n];
				if (stroke.tool === "smooth" && !smooths) continue;
				const far = fars[n](x, z) / stroke.radiusM;
				if (far >= 1) continue;
				height = TOOLS[stroke.tool].made(stroke, far, height, x, z, () => {
					let sum = 0;
					for (const ring of RINGS)
						for (let k = 0; k < ABOUT; k++) {
							const a = ((k + ring) * TAU) / ABOUT;
							const [px, pz] = [x + ring * stroke.radiusM * cos(a), z + ring * stroke.radiusM * sin(a)];
							sum += after(land(px, pz), px, pz, n, false);
						}
					return sum / (RINGS.length * ABOUT);
				});
			}
			return height;
		};
		return (before, x, z) => after(before, x, z, strokes.length, true);
	},
};
