/** Where an entry of the land's ledger holds: how it weighs a place, the sentence, the numbers that a person sets. */
import type { NumberField } from "../../doc/field.ts";
import type { LandWhere } from "../../doc/schema.ts";
import { atan, DEG, millimetres, smoothstep } from "../../maths/functions.ts";
import { fractal2 } from "../../maths/noise.ts";
import type { Land, Step } from "./entry.ts";
import { farFromLine } from "./hand/strokes.ts";
import { slopeOver } from "./lattice.ts";

interface WhereMaker<W extends LandWhere = LandWhere> {
	act: string;
	/** A brush draws it: there is no act for it. */
	drawn?: true;
	/** The sentence as it is taken in, before the land about a place. */
	usual: (x: number, z: number) => W;
	sentence: (where: W) => string;
	fields: readonly NumberField<W>[];
	/** How far it holds at a place, 0 to 1, were it not turned round; by the land before the entry, and what happened to that. */
	weight: (where: W, story: WhereStory) => Step;
}

/** The land before an entry. */
export interface WhereStory {
	land: Land;
	/** Metres from a place to the nearest path of it; null where there is none. */
	farFromPaths: () => ((x: number, z: number) => number) | null;
}

/** A least way on which a height or a distance goes over, so that the land has no cracks, metres. */
const LEAST_FEATHER_M = 0.05;
const LEAST_FEATHER_DEG = 0.5;

export const LAND_WHERES: { [K in LandWhere["kind"]]: WhereMaker<Extract<LandWhere, { kind: K }>> } = {
	"between heights": {
		act: "Between heights",
		usual: () => ({ kind: "between heights", not: false, fromM: 5, toM: 60, featherM: 5 }),
		sentence: ({ fromM, toM }) => `between ${fromM.toFixed(0)} and ${toM.toFixed(0)} m`,
		fields: [
			{ label: "From", value: "fromM", unit: "m", min: -1000, max: 4000, step: 1, digits: 1 },
			{ label: "To", value: "toM", unit: "m", min: -1000, max: 4000, step: 1, digits: 1 },
			{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 500, step: 1, digits: 1 },
		],
		weight: ({ fromM, toM, featherM }) => {
			const f = Math.max(LEAST_FEATHER_M, featherM);
			return (before) => smoothstep(fromM - f, fromM, before) * (1 - smoothstep(toM, toM + f, before));
		},
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
		sentence: ({ radiusM }) => `within ${radiusM.toFixed(0)} m of a place`,
		fields: [
			{ label: "Within", value: "radiusM", unit: "m", min: 0.5, max: 50_000, step: 1, digits: 1 },
			{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 20_000, step: 1, digits: 1 },
			{ label: "Right", value: "x", unit: "m", min: -1e6, max: 1e6, step: 0.5, digits: 1 },
			{ label: "Away", value: "z", unit: "m", min: -1e6, max: 1e6, step: 0.5, digits: 1, times: -1 },
		],
		weight: ({ x: ox, z: oz, radiusM, featherM }) => {
			const f = Math.max(LEAST_FEATHER_M, featherM);
			return (_, x, z) => 1 - smoothstep(radiusM, radiusM + f, Math.sqrt((x - ox) * (x - ox) + (z - oz) * (z - oz)));
		},
	},
	"on slopes": {
		act: "On slopes",
		usual: () => ({ kind: "on slopes", not: false, fromDeg: 25, toDeg: 90, featherDeg: 8, overM: 2 }),
		sentence: ({ fromDeg, toDeg }) =>
			toDeg >= 90
				? `where it is steeper than ${fromDeg.toFixed(0)}°`
				: `on slopes of ${fromDeg.toFixed(0)} to ${toDeg.toFixed(0)}°`,
		fields: [
			{ label: "From", value: "fromDeg", unit: "°", min: 0, max: 90, step: 1, digits: 0 },
			{ label: "To", value: "toDeg", unit: "°", min: 0, max: 90, step: 1, digits: 0 },
			{ label: "Goes over in", value: "featherDeg", unit: "°", min: 0, max: 90, step: 1, digits: 0 },
			{ label: "Over", value: "overM", unit: "m", min: 0.05, max: 500, step: 0.5, digits: 1 },
		],
		weight: ({ fromDeg, toDeg, featherDeg, overM }, { land }) => {
			const f = Math.max(LEAST_FEATHER_DEG, featherDeg);
			// Central differences of twice half the way.
			const slope = slopeOver(land, overM / 2);
			return (_, x, z) => {
				const steep = atan(slope(x, z)) / DEG;
				const below = toDeg >= 90 ? 1 : 1 - smoothstep(toDeg, toDeg + f, steep);
				return (fromDeg <= 0 ? 1 : smoothstep(fromDeg - f, fromDeg, steep)) * below;
			};
		},
	},
	"beside paths": {
		act: "Beside paths",
		usual: () => ({ kind: "beside paths", not: false, fromM: 0, toM: 4, featherM: 2 }),
		sentence: ({ fromM, toM }) => `${fromM.toFixed(0)} to ${toM.toFixed(0)} m beside paths`,
		fields: [
			{ label: "From", value: "fromM", unit: "m", min: 0, max: 200, step: 0.5, digits: 1 },
			{ label: "To", value: "toM", unit: "m", min: 0, max: 200, step: 0.5, digits: 1 },
			{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 200, step: 0.5, digits: 1 },
		],
		weight: ({ fromM, toM, featherM }, { farFromPaths }) => {
			const far = farFromPaths();
			const f = Math.max(LEAST_FEATHER_M, featherM);
			if (!far) return () => 0;
			return (_, x, z) => {
				const away = far(x, z);
				return (fromM <= 0 ? 1 : smoothstep(fromM - f, fromM, away)) * (1 - smoothstep(toM, toM + f, away));
			};
		},
	},
	"along lines": {
		act: "Along lines",
		drawn: true,
		usual: (x, z) => ({
			kind: "along lines",
			not: false,
			lines: [
				[
					[millimetres(x - 15), millimetres(z)],
					[millimetres(x + 15), millimetres(z)],
				],
			],
			radiusM: 4,
			featherM: 4,
		}),
		sentence: ({ lines, radiusM }) =>
			`within ${radiusM.toFixed(1)} m of ${lines.length === 1 ? "a line" : `${lines.length} lines`}`,
		fields: [
			{ label: "Within", value: "radiusM", unit: "m", min: 0.1, max: 20_000, step: 0.5, digits: 1 },
			{ label: "Goes over in", value: "featherM", unit: "m", min: 0, max: 20_000, step: 0.5, digits: 1 },
		],
		weight: ({ lines, radiusM, featherM }) => {
			const fars = lines.map((points) => farFromLine({ points }));
			const f = Math.max(LEAST_FEATHER_M, featherM);
			return (_, x, z) => {
				let least = Number.POSITIVE_INFINITY;
				for (const far of fars) least = Math.min(least, far(x, z));
				return 1 - smoothstep(radiusM, radiusM + f, least);
			};
		},
	},
	"in patches": {
		act: "In patches",
		usual: () => ({ kind: "in patches", not: false, sizeM: 80, share: 0.5, seed: 1 }),
		sentence: ({ sizeM, share }) => `in patches of ${sizeM.toFixed(0)} m, on ${Math.round(share * 100)} % of the land`,
		fields: [
			{ label: "Across", value: "sizeM", unit: "m", min: 1, max: 10_000, step: 1, digits: 0 },
			{ label: "Share", value: "share", unit: "%", min: 2, max: 100, step: 5, digits: 0, times: 100 },
			{ label: "Seed", value: "seed", unit: "", min: 0, max: 99_999, step: 1, digits: 0, whole: true },
		],
		weight: ({ sizeM, share, seed }) => {
			const edge = 1 - share;
			return (_, x, z) =>
				smoothstep(edge - 0.12, edge + 0.12, 0.5 + 1.1 * fractal2(x / sizeM, z / sizeM, seed + 400, 3));
		},
	},
};

export const whereOf = (where: Pick<LandWhere, "kind">): WhereMaker => LAND_WHERES[where.kind] as WhereMaker;

export const whereSentence = (where: LandWhere): string =>
	`${where.not ? "not " : ""}${whereOf(where).sentence(where)}`;
