import type { LaidWhere } from "../../../doc/schema.ts";
import { shareOfClouds } from "../clouds.ts";
import type { WhereMaker } from "../where.ts";

export const patches: WhereMaker<Extract<LaidWhere, { kind: "patches" }>> = {
	usual: { kind: "patches", sizeM: 1.2, share: 0.4, soft: 0.3, seed: 1 },
	act: "In patches",
	sentence: ({ sizeM, share }) =>
		`in patches of ${sizeM.toFixed(sizeM < 1 ? 2 : 1)} m on ${(100 * share).toFixed(0)} %`,
	fields: [
		{ label: "Size", value: "sizeM", unit: "m", min: 0.02, max: 1000, step: 0.1, digits: 2 },
		{ label: "Share", value: "share", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
		{ label: "Soft", value: "soft", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99_999, step: 1, digits: 0, whole: true },
	],
	band: ({ sizeM, share, soft, seed }) => ({ ...shareOfClouds(share, soft), sizeM, seed }),
};
