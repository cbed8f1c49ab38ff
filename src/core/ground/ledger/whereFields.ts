/** How a person sets where an entry of the land's ledger holds. */
import type { LandWhere } from "../../doc/schema.ts";
import { millimetres } from "../../maths/functions.ts";

export interface WhereField {
	label: string;
	value: string;
	unit: string;
	min: number;
	max: number;
	step: number;
	digits: number;
	times?: number;
}

interface WhereWords {
	act: string;
	/** The sentence as it is taken in, before the land about a place. */
	usual: (x: number, z: number) => LandWhere;
	fields: readonly WhereField[];
}

export const WHERE_FIELDS: Record<LandWhere["kind"], WhereWords> = {
	"between heights": {
		act: "Between heights",
		usual: () => ({ kind: "between heights", not: false, fromM: 5, toM: 60, featherM: 5 }),
		fields: [
			{ label: "From", value: "fromM", unit: "m", min: -1000, max: 4000, step: 1, digits: 1 },
			{ label: "To", value: "toM", unit: "m", min: -1000, max: 4000, step: 1, digits: 1 },
			{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 500, step: 1, digits: 1 },
		],
	},
	"near a place": {
		act: "Near a place",
		usual: (x, z) => ({
			kind: "near a place",
			not: false,
			x: millimetres(x),
			z: millimetres(z),
			radiusM: 30,
			featherM: 20,
		}),
		fields: [
			{ label: "Within", value: "radiusM", unit: "m", min: 0.5, max: 50_000, step: 1, digits: 1 },
			{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 20_000, step: 1, digits: 1 },
			{ label: "Right", value: "x", unit: "m", min: -1e5, max: 1e5, step: 0.5, digits: 1 },
			{ label: "Away", value: "z", unit: "m", min: -1e5, max: 1e5, step: 0.5, digits: 1, times: -1 },
		],
	},
	"in patches": {
		act: "In patches",
		usual: () => ({ kind: "in patches", not: false, sizeM: 80, share: 0.5, seed: 1 }),
		fields: [
			{ label: "Size of a patch", value: "sizeM", unit: "m", min: 1, max: 10_000, step: 1, digits: 0 },
			{ label: "Share", value: "share", unit: "%", min: 2, max: 100, step: 5, digits: 0, times: 100 },
			{ label: "Seed", value: "seed", unit: "", min: 0, max: 99_999, step: 1, digits: 0 },
		],
	},
};
