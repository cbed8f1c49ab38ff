/**
 * "Dry dock, lamps being lit": from the floor of a stepped dock at dusk, the bare ribs of a ship's hull on blocks against the
 * last light, as a script of edits on the blank shot. Right is x, away is −z; the dock's floor is level zero.
 */
import { blankShot } from "../src/core/doc/defaults.ts";
import { applyEdit, type Edit } from "../src/core/doc/edits.ts";
import type { ImageFile, ImageSurface, LaidWhere, ShotDocument } from "../src/core/doc/schema.ts";
import { laidOnce } from "../src/core/surface/brought.ts";
import { CLOTH, HALF_FLOOR, QUAY_M, RUNS, SKIN } from "./dryDock/making.ts";
import { hull, SHIP_X } from "./dryDock/ship.ts";
import { around, crane, dock, lamp, posts, quayLamps } from "./dryDock/yard.ts";
import { figure, grouped } from "./parts.ts";

/** A lens whose old glass is a little green: dusk is less violet through it. */
const LENS = { bend: 0, fringe: 0, falloff: 0.35, tint: [0.9, 1, 0.93] as [number, number, number] };

type Here = Extract<LaidWhere, { kind: "here" }>;

const TITLE = "Dry dock, lamps being lit";

/** The dock's walls, over which water has run. */
const walls = (): string[] =>
	dock()
		.map((p) => p.id)
		.filter((id) => /^(step|head)/.test(id));

/** How deep the water is, painted on the right wall when the dock was new: one picture that lies over all of its steps. */
export function gaugeEdits(files: { colour: ImageFile; cut: ImageFile }): Edit[] {
	const { widthPx, heightPx } = files.colour;
	const [highM, wideM] = [QUAY_M, (QUAY_M * widthPx) / heightPx];
	const surface: ImageSurface = {
		...{ id: "gauge", name: "Gauge of depth", sideM: wideM, highM, depthMm: 0, handed: "up" },
		files,
	};
	const place = { at: [HALF_FLOOR + 3, QUAY_M / 2, -28] as [number, number, number], headingDeg: 90, pitchDeg: 0 };
	const [{ kind: _, ...here }] = laidOnce({ ...surface, highM }, place).where as [Here];
	return [
		{ name: "imageSurface.set", surface },
		{
			name: "stain.set",
			stain: {
				id: "gauge",
				pieces: walls().filter((id) => id.startsWith("step1")),
				ground: false,
				laid: {
					...laidOnce({ ...surface, highM }, place),
					share: 0.85,
					where: [
						{ kind: "here", ...here, deepM: 4 * HALF_FLOOR },
						// What the tide reached has gone first.
						{ kind: "patches", sizeM: 0.35, share: 0.86, soft: 0.3, seed: 8 },
					],
				},
			},
		},
	];
}

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
