import type { LaidWhere } from "../../../doc/schema.ts";
import { shareOfClouds } from "../clouds.ts";
import type { WhereMaker } from "../where.ts";

/** Clouds drawn out upright, as what runs down a face leaves them. */
export const runs: WhereMaker<Extract<LaidWhere, { kind: "runs" }>> = {
	usual: { kind: "runs", widthM: 0.18, long: 14, share: 0.35, soft: 0.5, seed: 1 },
	act: "In runs downward",
	sentence: ({ widthM, share }) => `in runs ${widthM.toFixed(2)} m wide on ${(100 * share).toFixed(0)} %`,
	fields: [
		{ label: "Width", value: "widthM", unit: "m", min: 0.01, max: 100, step: 0.05, digits: 2 },
		{ label: "Times as long", value: "long", unit: "", min: 1, max: 100, step: 1, digits: 0 },
		{ label: "Share", value: "share", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
		{ label: "Soft", value: "soft", unit: "%", min: 0, max: 100, step: 1, digits: 0, times: 100 },
		{ label: "Seed", value: "seed", unit: "", min: 0, max: 99_999, step: 1, digits: 0, whole: true },
	],
	band: ({ widthM, long, share, soft, seed }) => ({
		...shareOfClouds(share, soft),
		sizeM: widthM,
		upright: 1 / long,
		seed,
	}),
};
