/**
 * "Slate incline, wet autumn": from what was tipped beside the flooded floor of a slate quarry, up the one straight line that took
 * the slate out of it, as a script of edits on the blank shot.
 */
import { blankShot } from "../src/core/doc/defaults.ts";
import { applyEdit, type Edit } from "../src/core/doc/edits.ts";
import type { Cover, ShotDocument } from "../src/core/doc/schema.ts";
import { newCover } from "../src/core/dress/plant.ts";
import { grouped } from "./parts.ts";
import { GROUND, heightAt, LAID, LAND } from "./slateIncline/land.ts";
import { foreman, shed, slabs, stack, track, wagon, windingHouse } from "./slateIncline/works.ts";

const TITLE = "Slate incline, wet autumn";

/** Where the lens stands, and how high over the land. */
const LENS: [number, number] = [3, 27];
const EYE_M = 1.7;

/** Where things grow: on treads and waste, in patches, not in the water and not on the track. */
const grows = (sizeM: number, share: number, maxDeg: number, farM: number, awayM: number): Cover["rules"] => [
	{ kind: "near the lens", out: false, distanceM: farM, featherM: farM / 4 },
	{ kind: "in view", out: false, marginPercent: 6 },
	{ kind: "away from pieces", out: false, widthM: awayM, featherM: 0.5 },
	{ kind: "slope", out: false, maxDeg, featherDeg: 8 },
	{ kind: "patches", out: false, sizeM, share, featherM: 0.4 },
	{ kind: "above water", out: false, marginM: 0.25, featherM: 0.3 },
];

const covers = (): Cover[] => [
	newCover("birches", "shrub", {
		name: "Birches",
		densityPerM2: 0.035,
		sizeM: [2.4, 5.2],
		seed: 7,
		colour: [0.3, 0.205, 0.045],
		rules: grows(26, 0.4, 34, 330, 9),
	}),
	newCover("fern", "shrub", {
		name: "Bracken",
		densityPerM2: 0.9,
		sizeM: [0.35, 0.85],
		seed: 3,
		colour: [0.22, 0.105, 0.035],
		rules: grows(9, 0.42, 36, 140, 0.6),
	}),
	newCover("grass", "tussock", {
		name: "Bent grass",
		densityPerM2: 1.6,
		sizeM: [0.2, 0.5],
		seed: 5,
		colour: [0.26, 0.2, 0.085],
		rules: grows(14, 0.5, 40, 90, 0.3),
	}),
];

/** All edits, in working order, on the blank shot. */
export function slateInclineEdits(): Edit[] {
	const { preset, seed, heightM } = GROUND;
	const [x, z] = LENS;
	return [
		{ name: "shot.setTitle", title: TITLE },
		{ name: "shot.setIdea", idea: "What was taken out of the hill, and the one straight line that took it." },
		{ name: "piece.remove", ids: blankShot().pieces.map((p) => p.id) },
		{ name: "camera.setFilm", ratio: 0.8 },
		{ name: "shot.setCarries", carries: ["the incline", "the winding house in cloud", "the sky in the pond"] },
		{ name: "shot.setMood", mood: ["wet slate", "drizzle", "drifting cloud"] },
		{ name: "ground.set", preset, seed, heightM },
		{ name: "ground.lay", laid: LAID },
		...LAND.map((entry): Edit => ({ name: "ground.addEntry", entry })),
		{
			name: "camera.place",
			position: [x, Number((heightAt(x, z) + EYE_M).toFixed(3)), z],
			headingDeg: -2.5,
			pitchDeg: 12.5,
		},
		{ name: "camera.setLens", focalMm: 25, fStop: 8, ev100: 13.6 },
		{ name: "camera.setLocked", locked: true },
		{ name: "air.setSun", headingDeg: 30, elevationDeg: 38 },
		{ name: "air.setHaze", haze: 3 },
		{ name: "air.setCloud", cover: 1, seed: 5 },
		{ name: "air.setFog", on: true, visibilityM: 2300, belowM: 420 },
		{ name: "water.set", on: false, levelM: 0, rippleMm: 1.5, clarityM: 1.4 },
		{ name: "finish.set", exposureEv: 0, curve: "print", contrast: 1.2, vignette: 0.18 },
		...grouped("track", "Incline", [...track(), ...wagon()]),
		...grouped("winding", "Winding house", windingHouse()),
		...grouped("shed", "Roofless shed", shed()),
		...grouped("slabs", "Slabs", [...slabs(), ...stack()]),
		...grouped("foreman", "Foreman", foreman()),
		...covers().map((cover): Edit => ({ name: "cover.add", cover })),
	];
}

/** The document that the script leads to. */
export const slateInclineDocument = (): ShotDocument =>
	slateInclineEdits().reduce((doc, edit) => applyEdit(doc, edit).document, blankShot());
