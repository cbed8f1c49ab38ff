/**
 * "Dry dock, lamps being lit": from the floor of a stepped dock at dusk, the bare ribs of a ship's hull on blocks against the
 * last light, as a script of edits on the blank shot. Right is x, away is −z; the dock's floor is level zero.
 */
import { blankShot } from "../src/core/doc/defaults.ts";
import { applyEdit, type Edit } from "../src/core/doc/edits.ts";
import type { ShotDocument } from "../src/core/doc/schema.ts";
import { CLOTH, QUAY_M, RUNS, SKIN } from "./dryDock/making.ts";
import { hull, SHIP_X } from "./dryDock/ship.ts";
import { around, crane, dock, lamp, posts, quayLamps } from "./dryDock/yard.ts";
import { figure, grouped } from "./parts.ts";

/** A lens whose old glass is a little green: dusk is less violet through it. */
const LENS = { bend: 0, fringe: 0, falloff: 0.35, tint: [0.9, 1, 0.93] as [number, number, number] };

const TITLE = "Dry dock, lamps being lit";

/** The dock's walls, over which water has run. */
const walls = (): string[] =>
	dock()
		.map((p) => p.id)
		.filter((id) => /^(step|head)/.test(id));

/** All edits, in working order, on the blank shot. */
export function dryDockEdits(): Edit[] {
	return [
		{ name: "shot.setTitle", title: TITLE },
		{ name: "shot.setIdea", idea: "The last light behind a ship that is not one yet; and the first lamp." },
		{ name: "piece.remove", ids: blankShot().pieces.map((p) => p.id) },
		{ name: "camera.setFilm", ratio: 1.85 },
		{ name: "shot.setCarries", carries: ["the ribs against the sky", "the lamp being lit", "the town's windows"] },
		{ name: "shot.setMood", mood: ["dusk", "wet stone", "work done"] },
		{ name: "camera.place", position: [-4.2, 1.55, 0], headingDeg: 4, pitchDeg: 7.5 },
		{ name: "camera.setLens", focalMm: 25, fStop: 5.6, ev100: 3.9 },
		{ name: "camera.setLocked", locked: true },
		{ name: "air.setSun", headingDeg: -20, elevationDeg: -5.8 },
		{ name: "air.setHaze", haze: 1.6 },
		{ name: "air.setCloud", cover: 0.5, seed: 11 },
		{ name: "air.setFog", on: true, visibilityM: 9000, belowM: 40 },
		{ name: "water.set", on: false },
		{ name: "finish.set", exposureEv: 0, curve: "print", contrast: 1.1, vignette: 0.2, lens: LENS },
		...grouped("dock", "Dock", dock()),
		{ name: "stain.set", stain: { id: "runs", pieces: walls(), ground: false, laid: RUNS } },
		...grouped("ship", "Hull", hull()),
		...grouped("crane", "Crane", crane()),
		...grouped("quay", "Quay lamps", posts()),
		...grouped("town", "Shed, town and hills", around()),
		...grouped(
			"lighter",
			"Lamplighter",
			figure("a", "Figure", [-1.6, 0, -13.5], 10, [-1.25, 1.95, -13.6], { cloth: CLOTH, skin: SKIN }),
		),
		...grouped(
			"mate",
			"The other one",
			figure("b", "Figure", [-2.6, 0, -14.4], 60, [-2.2, 0.85, -14.4], { cloth: CLOTH, skin: SKIN }),
		),
		{
			name: "lamp.add",
			lamps: [
				lamp("lantern", "Lantern being lit", [-1.2, 2.1, -13.7], 2400, 0.22),
				lamp("hull1", "Work lamp in the hull, fore", [SHIP_X - 1.2, 3.4, -40], 7000, 0.35),
				lamp("hull2", "Work lamp in the hull, aft", [SHIP_X + 1, 3.1, -64], 7000, 0.35),
				...quayLamps(),
				lamp("shed", "Shed lamp", [28, QUAY_M + 3.4, -54], 5000, 0.4),
			],
		},
	];
}

/** The document that the script leads to. */
export const dryDockDocument = (): ShotDocument =>
	dryDockEdits().reduce((doc, edit) => applyEdit(doc, edit).document, blankShot());
