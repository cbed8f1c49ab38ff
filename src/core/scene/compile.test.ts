import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { usualMove } from "../doc/edits/move.ts";
import { applyEdit } from "../doc/edits.ts";
import { newCover } from "../dress/plant.ts";
import { pieceTransforms } from "../shape/place.ts";
import { STILL } from "../time/frames.ts";
import { compile } from "./compile.ts";
import { NO_BLOBS, NO_MAKERS } from "./inputs.ts";
import { PartCache } from "./partCache.ts";

describe("compile", () => {
	it("leaves the lens standing while only others move, though the focus follows one of them", () => {
		const doc = blankShot();
		const [piece] = doc.pieces;
		const [x, y, z] = piece.position;
		doc.camera.focusOn = piece.id;
		const keys = [0, 1].map((timeS) => ({ timeS, value: [x + timeS, y, z], leave: "even" as const }));
		doc.move = { ...usualMove(), tracks: [{ value: "piece.place", of: piece.id, keys }] };
		const { root } = compile(doc, { timeS: 0, shutterS: 1 / 48 });
		expect(root.shutter).toBeNull();
		expect(root.draws.some((d) => d.way)).toBe(true);
	});
	it("makes only new parts when one piece moves", () => {
		const cache = new PartCache();
		const doc = { ...blankShot(), covers: [newCover("grass", "tussock", { densityPerM2: 0.4 })] };
		compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
		cache.made = [];
		const moved = applyEdit(doc, { name: "piece.move", pieces: [{ id: "stake-5", position: [0, 0, -7] }] }).document;
		const scene = compile(moved, STILL, NO_BLOBS, NO_MAKERS, cache);
		expect(cache.made.every((key) => key.startsWith("plants:"))).toBe(true);
		expect(cache.made.length).toBeLessThanOrEqual(4);
		expect(scene.parts.size).toBeGreaterThan(20);
	});
	it("gives the same parts again from an empty cache", () => {
		const doc = blankShot();
		expect([...compile(doc).parts.keys()]).toEqual([...compile(doc).parts.keys()]);
	});
	it("places copies along the piece's own right and away", () => {
		const piece = {
			...blankShot().pieces[0],
			headingDeg: 90,
			repeat: { kind: "row" as const, count: 3, step: [0, 2] as [number, number] },
		};
		const [a, b] = pieceTransforms(piece, blankShot());
		expect(b[3] - a[3]).toBeCloseTo(2);
		expect(b[11] - a[11]).toBeCloseTo(0);
	});
});
