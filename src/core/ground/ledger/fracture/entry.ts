import type { LandEntry } from "../../../doc/schema.ts";
import { fractal2 } from "../../../maths/noise.ts";
import { type CellPoint, pointsAbout } from "../cells.ts";
import type { LandMaker } from "../entry.ts";

/** Blocks that stand higher or lower, with slopes between them: heights of cells, blended where two are about as near. */
export const fracture: LandMaker<Extract<LandEntry, { kind: "fracture" }>> = {
	usual: () => ({ kind: "fracture", seed: 1, sizeM: 90, stepM: 8, width: 0.15 }),
	act: "Fracture",
	by: "rock",
	sentence: ({ sizeM, stepM }) => `it broke into blocks of ${sizeM.toFixed(0)} m, up to ${stepM.toFixed(1)} m apart`,
	fields: [
		{ label: "Apart", value: "stepM", unit: "m", min: 0, max: 200, step: 0.5, digits: 1, ruled: true },
		{
			label: "Blocks of",
			value: "sizeM",
			unit: "m",
			min: 2,
			max: 2000,
			step: 1,
			digits: 0,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Slope between", value: "width", unit: "%", min: 2, max: 100, step: 1, digits: 0, times: 100 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: ({ seed, sizeM, stepM, width }) => {
		const about: CellPoint[] = [];
		return (before, x, z) => {
			// Faults are not straight: places are shifted a little before they are asked for.
			const bend = 0.16 * fractal2(x / (0.5 * sizeM), z / (0.5 * sizeM), seed + 700, 3);
			const points = pointsAbout(x / sizeM + bend, z / sizeM - bend, seed + 701, about);
			let near = points[0].far;
			for (const p of points) near = Math.min(near, p.far);
			let [sum, weights] = [0, 0];
			for (const { far, lot } of points) {
				const w = Math.max(0, 1 - (far - near) / width);
				sum += w * w * lot;
				weights += w * w;
			}
			return before + stepM * (sum / weights - 0.5);
		};
	},
};
