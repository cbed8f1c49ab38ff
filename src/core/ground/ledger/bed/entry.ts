import type { LandEntry } from "../../../doc/schema.ts";
import { cos, DEG, sin, smoothstep, tan } from "../../../maths/functions.ts";
import { hash01 } from "../../../maths/hash.ts";
import { fractal2 } from "../../../maths/noise.ts";
import type { LandMaker } from "../entry.ts";

/** Layers of harder and softer rock that lean: each hard one stands out as a ledge with a riser of its own. */
export const bed: LandMaker<Extract<LandEntry, { kind: "bed" }>> = {
	usual: () => ({ kind: "bed", seed: 1, everyM: 2.5, dipDeg: 8, headingDeg: 60, strength: 0.7 }),
	act: "Bed",
	by: "rock",
	sentence: ({ everyM, dipDeg, headingDeg }) =>
		`its rock lies in beds of ${everyM.toFixed(1)} m that fall ${dipDeg.toFixed(0)}° towards ${headingDeg.toFixed(0)}°`,
	fields: [
		{
			label: "Thickness",
			value: "everyM",
			unit: "m",
			min: 0.1,
			max: 50,
			step: 0.1,
			digits: 1,
			ruled: true,
			logarithmic: true,
		},
		{ label: "Worn by", value: "strength", unit: "%", min: 0, max: 100, step: 5, digits: 0, times: 100, ruled: true },
		{ label: "Fall", value: "dipDeg", unit: "°", min: 0, max: 60, step: 1, digits: 0 },
		{ label: "Towards", value: "headingDeg", unit: "°", min: -180, max: 180, step: 5, digits: 0 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99999, step: 1, digits: 0, whole: true },
	],
	made: ({ seed, everyM, dipDeg, headingDeg, strength }) => {
		const fall = tan(dipDeg * DEG);
		const [right, away] = [fall * sin(headingDeg * DEG), fall * cos(headingDeg * DEG)];
		const across = 18 * everyM;
		return (before, x, z) => {
			const uneven = 0.45 * fractal2(x / across, z / across, seed + 900, 4);
			const v = (before + x * right - z * away) / everyM + uneven;
			const k = Math.floor(v);
			const f = v - k;
			const hard = hash01(k ^ (seed * 7919), 5);
			const ledge = smoothstep(0.15 + 0.6 * hard, 0.5 + 0.5 * hard, f);
			return before + strength * everyM * (ledge - f);
		};
	},
};
