import type { Rule } from "../../../doc/schema.ts";
import { runoffOf } from "../../../ground/runoff.ts";
import { cos, DEG, log, sin, smoothstep } from "../../../maths/functions.ts";
import { gapTo, type WhereRule } from "../rule.ts";

/** It goes over to nothing where so many times less water comes by. */
const LESS = 2;

type Own = Extract<Rule, { kind: "where water runs" }>;

const USUAL: Own = { kind: "where water runs", out: false, fromM2: 300, x: 0, z: 0, withinM: 150 };

/** Before a lens, as a share of how far it reaches: little of it lies behind. */
const BEFORE = 0.8;

/** Where rain runs together: what stands in gullies and along their floors. */
export const whereWaterRuns: WhereRule<Own> = {
	usual: USUAL,
	begun: ({ position: [x, , z], headingDeg }) => {
		const before = BEFORE * USUAL.withinM;
		return {
			...USUAL,
			x: Math.round(x + before * sin(headingDeg * DEG)),
			z: Math.round(z - before * cos(headingDeg * DEG)),
		};
	},
	usually: null,
	act: "Where water runs",
	sentence: ({ fromM2, withinM }) =>
		`where the rain of ${fromM2 < 1e4 ? `${fromM2.toFixed(0)} m²` : `${(fromM2 / 1e4).toFixed(1)} ha`} comes by, within ${withinM.toFixed(0)} m`,
	fields: [
		{ label: "Rain of", value: "fromM2", unit: "m²", min: 1, max: 1e6, step: 10, digits: 0, logarithmic: true },
		{ label: "Within", value: "withinM", unit: "m", min: 10, max: 5000, step: 5, digits: 0 },
		{ label: "Right", value: "x", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 0 },
		{ label: "Away", value: "z", unit: "m", min: -1e6, max: 1e6, step: 1, digits: 0, times: -1 },
	],
	inCell: ({ fromM2, x: atX, z: atZ, withinM }, { ground }, { x: i, z: j }) => {
		if (Math.max(gapTo(atX, i), gapTo(atZ, j)) > withinM) return "none";
		const rain = runoffOf(ground, { x: atX, z: atZ, withinM });
		const [least, most] = [log(fromM2 / LESS), log(fromM2)];
		return { madeOf: [], weight: (x, z) => smoothstep(least, most, rain(x, z)) };
	},
};
