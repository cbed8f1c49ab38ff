/** The surfaces of the salt works, and places along its track. */

import { newPiece } from "../../src/core/doc/defaults.ts";
import type { Edit } from "../../src/core/doc/edits.ts";
import type { Laid, LaidWhere, Piece, ShapeKind, Surface } from "../../src/core/doc/schema.ts";
import { millimetres } from "../../src/core/maths/functions.ts";
import { laidAsMade } from "../../src/core/surface/laying.ts";
import { covered, overIt } from "../parts.ts";

/** Heading of the track, degrees clockwise from the lens's first direction. */
export const TRACK = 25;
/** The track passes this far to the right of the lens's foot (to its left when negative). */
export const ASIDE = -3.1;
/** Top of the track's bank over the water, metres. */
export const BANK = 0.42;

export const rad = (d: number) => (d * Math.PI) / 180;

export function at(s: number, r: number, y = 0): [number, number, number] {
	const right = r + ASIDE;
	const h = rad(TRACK);
	return [millimetres(Math.sin(h) * s + Math.cos(h) * right), y, millimetres(-Math.cos(h) * s + Math.sin(h) * right)];
}

/** Salt creeps up what stands in the brine. */
const CREEPS: LaidWhere[] = [
	{ kind: "high", fromM: -10, toM: 0.34, softM: 0.5 },
	{ kind: "patches", sizeM: 0.4, share: 0.25, soft: 0.9, seed: 3 },
];

export const TIMBER: Surface = covered({ colour: [0.085, 0.066, 0.052], roughness: 0.8, metal: 0 }, "brined timber", {
	over: [overIt("salt heap", CREEPS)],
});
export const WEATHERED: Surface = covered({ colour: [0.2, 0.17, 0.14], roughness: 0.85, metal: 0 }, "brined timber", {
	seed: 2,
});
/** Earth of the banks: wet at the water's edge, where the brine leaves its salt; stones that were tipped on top, and some that rolled down. */
export const BANK_EARTH: Surface = covered({ colour: [0.15, 0.122, 0.1], roughness: 0.9, metal: 0 }, "soil", {
	acrossM: 1.1,
	over: [
		overIt("soil", [{ kind: "high", fromM: -10, toM: 0.05, softM: 0.07 }], { tint: 0.9, acrossM: 1.1, wet: 0.5 }),
		overIt(
			"gravel",
			[
				{ kind: "high", fromM: 0.2, toM: 10, softM: 0.22 },
				{ kind: "patches", sizeM: 0.5, share: 0.5, soft: 0.5, seed: 5 },
			],
			{ tint: 0.45, acrossM: 1.3 },
		),
		overIt(
			"shingle",
			[
				{ kind: "facing", fromDeg: 0, toDeg: 9, softDeg: 9 },
				{ kind: "patches", sizeM: 0.8, share: 0.7, soft: 0.3, seed: 2 },
			],
			{ tint: 0.4, acrossM: 1.2 },
		),
		overIt("salt heap", [
			{ kind: "high", fromM: 0, toM: 0.1, softM: 0.1 },
			{ kind: "patches", sizeM: 0.9, share: 0.4, soft: 0.5, seed: 4 },
		]),
	],
});
export const RUST: Surface = covered({ colour: [0.2, 0.11, 0.07], roughness: 0.38, metal: 0 }, "rail", { tint: 0.3 });
export const IRON: Surface = covered({ colour: [0.12, 0.1, 0.09], roughness: 0.6, metal: 0 }, "rail", { tint: 0.6 });
export const SALT: Surface = covered({ colour: [0.82, 0.8, 0.77], roughness: 0.85, metal: 0 }, "salt heap", {
	tint: 0.5,
});
export const PEBBLE: Surface = { colour: [0.3, 0.26, 0.21], roughness: 0.7, metal: 0 };
export const STALK: Surface = { colour: [0.3, 0.23, 0.12], roughness: 0.8, metal: 0 };
export const ROOF: Surface = covered({ colour: [0.16, 0.085, 0.06], roughness: 0.75, metal: 0 }, "wood shingles");
export const CLOTH: Surface = { colour: [0.035, 0.034, 0.04], roughness: 0.9, metal: 0 };
export const SKIN: Surface = { colour: [0.32, 0.2, 0.14], roughness: 0.6, metal: 0 };
export const STRAW: Surface = { colour: [0.34, 0.27, 0.15], roughness: 0.85, metal: 0 };
export const FEATHER: Surface = { colour: [0.5, 0.5, 0.52], roughness: 0.7, metal: 0 };
export const TAMARISK: Surface = { colour: [0.07, 0.075, 0.045], roughness: 1, metal: 0 };

export type Place = { s: number; r: number; y?: number };

export function part(
	id: string,
	name: string,
	kind: ShapeKind,
	place: Place,
	size: [number, number, number],
	surface: Surface,
	over: Partial<Piece> = {},
): Piece {
	return newPiece(id, kind, {
		name,
		position: at(place.s, place.r, place.y ?? 0),
		stands: "level",
		headingDeg: TRACK,
		size,
		surface,
		...over,
	});
}

export const add = (...pieces: Piece[]): Edit => ({ name: "piece.add", pieces });

/** The flat: salt in plates, and mud where the water comes and goes. */
export const FLAT: Laid = {
	...laidAsMade("salt crust"),
	tint: 1,
	over: [overIt("wet mud", [{ kind: "high", fromM: -10, toM: 0.02, softM: 0.06 }], { tint: 1, wet: 0.3 })],
};
