/** The dock, what stands on its quays, the town behind, and those who light the lamps. */
import { newPiece } from "../../src/core/doc/defaults.ts";
import { corners, type Lamp, type Piece } from "../../src/core/doc/schema.ts";
import { newLamp } from "../../src/core/light/lamp.ts";
import { bar, lattice, type P, put, shaped } from "../parts.ts";
import {
	BRICK,
	FLOOR,
	GLASS,
	HALF_FLOOR,
	HEAD_Z,
	IRON,
	PALE,
	QUAY_M,
	STEP_BACK,
	STEPS,
	STONE,
	TOWN,
	WET,
} from "./making.ts";

export function dock(): Piece[] {
	const far = 240;
	const out: Piece[] = [];
	for (const side of [-1, 1])
		for (let i = 0; i < STEPS; i++) {
			const tall = (QUAY_M * (i + 1)) / STEPS;
			const wide = i === STEPS - 1 ? 120 : STEP_BACK;
			const inner = HALF_FLOOR + i * STEP_BACK;
			out.push(
				put(
					`step${side}${i}`,
					`Dock wall, ${side < 0 ? "left" : "right"}, step ${i + 1}`,
					"box",
					[side * (inner + wide / 2), 0, -far / 2 + 20],
					[wide, tall, far],
					i < 2 ? WET : STONE,
				),
			);
		}
	for (let i = 0; i < STEPS; i++) {
		const tall = (QUAY_M * (i + 1)) / STEPS;
		out.push(
			put(
				`head${i}`,
				`Dock head, step ${i + 1}`,
				"box",
				[0, 0, HEAD_Z - i * STEP_BACK - 60],
				[2 * HALF_FLOOR + 20, tall, 120],
				i < 2 ? WET : STONE,
			),
		);
	}
	out.push(put("floor", "Dock floor", "box", [0, -0.4, -60], [60, 0.4, 200], FLOOR));
	// A stair up the left wall, a short flight on each of its steps.
	for (let i = 0; i < STEPS; i++)
		out.push(
			put(
				`stair${i}`,
				`Stair, flight ${i + 1}`,
				"stair",
				[0.7 - HALF_FLOOR - i * STEP_BACK, (QUAY_M * i) / STEPS, -20 - 3 * i],
				[1.4, QUAY_M / STEPS, 3],
				STONE,
				{ shape: shaped("stair", { steps: 8 }) },
			),
		);
	return out;
}

export const crane = (): Piece[] => [
	...lattice("mast", "Crane, mast", [-23, QUAY_M, -62], [-23, QUAY_M + 17, -62], 2.2, 8, IRON),
	...lattice("jib", "Crane, jib", [-23, QUAY_M + 15, -62], [2, QUAY_M + 22, -56], 1.3, 11, IRON),
	bar("fall", "Crane, fall", [1.4, 14.2, -56.2], [1.4, QUAY_M + 21.6, -56.2], 0.06, IRON),
	put("hook", "Crane, load", "box", [1.4, 12.6, -56.2], [2.6, 0.3, 0.5], PALE, { headingDeg: 20 }),
	put("cabinroof", "Crane, cabin's roof", "box", [-23, QUAY_M + 14.4, -60.4], [2.8, 0.16, 2.4], IRON),
	put("cabinpane", "Crane, cabin's window", "box", [-23.4, QUAY_M + 13.1, -59.38], [1.1, 0.8, 0.05], GLASS, {
		surface: { ...GLASS, glow: { nits: 140, kelvin: 2300 } },
	}),
	put("cabin", "Crane, cabin", "box", [-23, QUAY_M + 12, -60.4], [2.4, 2.4, 2], BRICK),
];

/** Posts of lamps along the quay's edges: right, away. Not all of them are lit yet. */
export const POSTS: [number, number][] = [-28, -48, -68, -88].flatMap((z): [number, number][] => [
	[-18.4, z],
	[18.4, z - 6],
]);

export const posts = (): Piece[] =>
	POSTS.flatMap(([x, z], i) => [
		put(`post${i}`, "Quay lamp, post", "cylinder", [x, QUAY_M, z], [0.16, 4.2, 0.16], IRON),
		put(`globe${i}`, "Quay lamp, globe", "sphere", [x, QUAY_M + 4.17, z], [0.32, 0.36, 0.32], GLASS),
		put(`hood${i}`, "Quay lamp, hood", "cone", [x, QUAY_M + 4.5, z], [0.62, 0.3, 0.62], IRON, {
			shape: shaped("cone", { top: 0.2 }),
		}),
	]);

/** Terraces that the town climbs: right, above the quay, away, wide, deep. */
const TIERS: [number, number, number, number, number][] = [
	[-60, 2, -250, 420, 70],
	[20, 12, -330, 520, 70],
	[-80, 24, -420, 560, 80],
	[60, 38, -520, 620, 90],
];

export function around(): Piece[] {
	const arch = shaped("arch", { spanM: 3.4, springM: 2.6, curve: "round" });
	return [
		put("arches", "Long shed, arches", "arch", [25, QUAY_M, -34], [5, 5.4, 0.7], BRICK, {
			headingDeg: 90,
			shape: arch,
			repeat: { kind: "row", count: 13, step: [5, 0] },
		}),
		put("shedback", "Long shed, back wall", "box", [34, QUAY_M, -64], [0.6, 5.4, 66], BRICK),
		put("shedroof", "Long shed, roof", "wedge", [29.5, QUAY_M + 5.4, -64], [67, 3.2, 11], IRON, { headingDeg: 90 }),
		...TIERS.map(([x, up, z, wide, deep], i) =>
			newPiece(`town${i}`, "town", {
				name: `Town, ${["lowest", "lower", "upper", "uppermost"][i]} terrace`,
				position: [x, QUAY_M + up, z],
				stands: "level",
				size: [wide, 15, deep],
				surface: TOWN,
				shape: shaped("town", {
					points: corners<[number, number]>(
						[-wide / 2, 0],
						[wide / 2, 12],
						[wide / 2 - 10, deep],
						[20 - wide / 2, deep],
					),
					streetM: 8,
					blockM: 44,
					houseM: 11,
					lowest: 0.45,
					lit: 0.3 - 0.05 * i,
					seed: 4 + 5 * i,
				}),
			}),
		),
		...TIERS.map(([x, up, z, wide, deep], i) =>
			put(`terrace${i}`, "Terrace", "box", [x, 0, z - deep / 2], [wide + 500, QUAY_M + up, deep + 60], TOWN),
		),
		put("hill1", "Hill behind the town, left", "dome", [-420, -10, -900], [900, 150, 420], TOWN),
		put("hill2", "Hill behind the town, right", "dome", [330, -10, -1200], [1500, 230, 500], TOWN),
		put("tower", "Church tower", "box", [-70, QUAY_M + 12, -400], [7, 30, 7], TOWN),
		put("spire", "Church tower, spire", "cone", [-70, QUAY_M + 42, -400], [8, 15, 8], TOWN, {
			shape: shaped("cone", { top: 0 }),
		}),
	];
}

/** A flame behind glass. */
export const lamp = (id: string, name: string, position: P, lumen: number, across: number): Lamp =>
	newLamp(id, "sphere", {
		name,
		position,
		stands: "level",
		sizeM: [across, across],
		kelvin: 2150,
		strength: { value: lumen, unit: "lumen", atM: 1 },
	});

/** The posts whose lamps are lit already. */
const LIT = [1, 2, 3, 5, 6];

/** Lamps of the quays that are lit. */
export const quayLamps = (): Lamp[] =>
	POSTS.flatMap(([x, z], i) =>
		LIT.includes(i) ? [lamp(`quay${i}`, "Quay lamp", [x, QUAY_M + 4.34, z], 3200, 0.34)] : [],
	);
