/** The quarry of the slate incline: what has happened to its land. Right is x, away is −z; its floor is level zero. */
import { type Ground, type Laid, LandEntry } from "../../src/core/doc/schema.ts";
import { groundHeight } from "../../src/core/ground/height.ts";
import { newEntry } from "../../src/core/ground/ledger/ledger.ts";
import { laidAsMade } from "../../src/core/surface/laying.ts";
import { overIt } from "../parts.ts";

type Spot = [number, number];

/** Foot and head of the incline. */
export const FOOT: Spot = [6, -98];
export const HEAD: Spot = [-24, -322];
/** Its sleepers' tops lie so far over it. */
export const SLEEPERS_M = 0.1;

const entry = (kind: LandEntry["kind"], id: string, over: object): LandEntry =>
	LandEntry.parse({ ...newEntry(kind, id, 0, 0), ...over });

const stroke = (tool: "raise" | "lower" | "relief", radiusM: number, byM: number, ...points: Spot[]) => ({
	tool,
	points,
	radiusM,
	byM,
	seed: 5,
});

/** Where the ropes are wound: a level place at the incline's head. */
const HEAD_M = 150;

export const LAND: readonly LandEntry[] = [
	entry("hand", "hills", {
		strokes: [
			// The hill goes on behind the galleries, higher to the left.
			stroke("raise", 150, 74, [-120, -330]),
			stroke("raise", 120, 40, [96, -300]),
			// What was tipped on the floor: under the lens, and before both walls.
			stroke("raise", 22, 5.4, [7, 34], [-8, 40]),
			stroke("raise", 13, 2.6, [25, -16], [31, -34]),
			stroke("raise", 11, 2.2, [-27, -30], [-23, -46]),
			// The hollow where the water stands.
			stroke("lower", 11, 2.1, [-13, -14], [-5, -20], [4, -18]),
			stroke("lower", 7, 1.5, [-3, -6], [6, -8], [13, -14]),
			stroke("lower", 6, 1.3, [-14, -26], [-9, -31]),
		],
	}),
	entry("fracture", "faces", {
		seed: 3,
		sizeM: 5,
		stepM: 1.6,
		width: 0.1,
		where: [{ kind: "on slopes", not: false, fromDeg: 45, toDeg: 90, featherDeg: 8, overM: 5 }],
	}),
	entry("swell", "waste", {
		seed: 12,
		sizeM: 5,
		heightM: 0.5,
		rough: 0.75,
		where: [{ kind: "near a place", not: false, x: 0, z: -10, radiusM: 60, featherM: 40 }],
	}),
	entry("level", "landing", { x: HEAD[0], z: HEAD[1] - 6, radiusM: 18, featherM: 10, atM: HEAD_M }),
	entry("path", "incline", {
		points: [FOOT, HEAD],
		widthM: 3.6,
		grade: 0.78,
		crown: 0,
		vergeM: 0.7,
		ditchM: 0.15,
		bankDeg: 54,
		laid: "gravel",
		sleepersM: 0.9,
	}),
	entry("path", "floor-track", {
		points: [FOOT, [9, -70], [17, -40], [21, -8], [18, 22]],
		widthM: 2.6,
		grade: 0.12,
		crown: 0.03,
		vergeM: 0.4,
		ditchM: 0,
		bankDeg: 40,
		laid: "gravel",
		rutM: 0.08,
	}),
	entry("pond", "pond", { x: -2, z: -17, radiusM: 26, digM: 0, share: 0.94, fineness: 9, leastM: 0.3 }),
];

export const GROUND: Ground = { preset: "quarry", seed: 4, heightM: 140, ledger: [...LAND] };

/** Height of the land at a place, metres. */
export const heightAt = (x: number, z: number): number => groundHeight(GROUND, x, z);

/** What the land is made of: split slate, sharp waste where it lies, and moss where it has lain long. */
export const LAID: Laid = {
	...laidAsMade("slate"),
	acrossM: 7,
	reliefMm: 160,
	tint: 0.95,
	wet: 0.2,
	over: [
		overIt("scree", [{ kind: "facing", fromDeg: 0, toDeg: 40, softDeg: 14 }], {
			acrossM: 2.4,
			reliefMm: 75,
			tint: 0.9,
			wet: 0.2,
		}),
		overIt(
			"moss",
			[
				{ kind: "facing", fromDeg: 0, toDeg: 30, softDeg: 20 },
				{ kind: "patches", sizeM: 4, share: 0.25, soft: 0.3, seed: 3 },
			],
			{ tint: 0.35, wet: 0.3 },
		),
	],
};
