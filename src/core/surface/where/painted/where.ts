import type { LaidWhere } from "../../../doc/schema.ts";
import { NEVER, type WhereMaker } from "../where.ts";

export const painted: WhereMaker<Extract<LaidWhere, { kind: "painted" }>> = {
	usual: { kind: "painted", mask: "paint" },
	taken: (id) => ({ kind: "painted", mask: id }),
	notOnPlants: true,
	act: "By the brush",
	sentence: () => "where it is painted",
	fields: [],
	band: ({ mask }) => ({ of: "volume", rises: [0, 1], falls: [NEVER, 2 * NEVER], asks: { kind: "paint", mask } }),
};
