import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import type { Piece, ShotDocument } from "../doc/schema.ts";
import { frameOfView, project } from "../lens/camera.ts";
import { transformPoint, type Vec3 } from "../maths/vec.ts";
import { pieceFrames } from "./place.ts";
import { placeOn, placeUnder } from "./underPoint.ts";

const shot = (...pieces: Piece[]): ShotDocument => {
	const doc = blankShot();
	return { ...doc, pieces, camera: { ...doc.camera, position: [0, 1.6, 0], headingDeg: 0, pitchDeg: -4, rollDeg: 0 } };
};
const box = (id: string, over: Partial<Piece> = {}) =>
	newPiece(id, "box", { stands: "level", position: [0, 0, -8], size: [2, 2, 1], ...over });

describe("a place of a piece under a place of the frame", () => {
	it("is told in the piece's own metres, however it is turned, leaned and as large as it is", () => {
		const piece = box("a", {
			headingDeg: 37,
			pitchDeg: 12,
			rollDeg: -8,
			size: [3, 1.5, 0.7],
			position: [0.4, 0.3, -7],
		});
		const doc = shot(piece);
		const view = frameOfView(doc.camera);
		// A place of its near face.
		const own: Vec3 = [0.5, 0.9, 0.35];
		const world = transformPoint(pieceFrames(piece, doc)[0], own);
		const at = project(view, world);
		const met = placeOn(piece, view, doc, { x: at.x, y: at.y });
		for (const c of [0, 1, 2]) {
			expect(met?.own.at[c]).toBeCloseTo(own[c], 5);
			expect(met?.world.at[c]).toBeCloseTo(world[c], 5);
		}
	});

	it("is that of the nearest of its copies, in the metres that they share, though others stand before it", () => {
		const piece = box("a", { repeat: { kind: "row", count: 3, step: [0, -2] }, size: [1, 2, 0.5] });
		const doc = shot(piece, box("b", { position: [0, 0, -3] }));
		const view = frameOfView(doc.camera);
		const met = placeOn(piece, view, doc, project(view, [0, 1, -4]));
		expect(met?.own.at[2]).toBeCloseTo(0.25, 4);
		expect(placeOn(piece, view, doc, { x: 0.02, y: 0.02 })).toBeNull();
	});

	it("is of what is nearest, pieces or ground, where it is of no piece alone", () => {
		const doc = shot(box("a"));
		const view = frameOfView(doc.camera);
		expect(placeUnder(view, doc, project(view, [0, 1, -7.5]))?.at[2]).toBeCloseTo(-7.5, 3);
		const ground = placeUnder(view, doc, { x: 0.5, y: 0.97 });
		expect(ground?.at[1]).toBeLessThan(1);
		expect(placeUnder(view, { ...doc, ground: { ...doc.ground, out: true } }, { x: 0.5, y: 0.97 })).toBeNull();
		expect(placeUnder(view, doc, { x: 0.5, y: 0.02 })).toBeNull();
	});
});
