import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { usualMove } from "../doc/edits/move.ts";
import { applyEdit } from "../doc/edits.ts";
import { newCover } from "../dress/plant.ts";
import { pieceTransforms } from "../shape/place.ts";
import { laidAsMade } from "../surface/laying.ts";
import { TEXEL_WORDS, texelsOf } from "../surface/sheet.ts";
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

describe("surfaces on covers", () => {
	it("lie on each plant in its own metres, and on none that is left out", () => {
		const laid = { ...laidAsMade("lichen"), tint: 1 };
		const cover = newCover("c", "shrub", { densityPerM2: 0.05, laid });
		const doc = { ...blankShot(), pieces: [], covers: [cover] };
		const sheet = { sideM: 1, size: 4, leastMm: 0, mostMm: 1, words: new Uint32Array(TEXEL_WORDS * texelsOf(4)) };
		const makers = { ...NO_MAKERS, sheet: () => sheet };
		const { root, parts } = compile(doc, STILL, NO_BLOBS, makers, new PartCache());
		const { layers } = root.materials[root.covers[0].material];
		expect(layers).toMatchObject([{ world: false, tint: 1 }]);
		expect(parts.get(layers?.[0].sheet ?? "")?.kind).toBe("sheet");
		const hidden = { ...doc, covers: [{ ...cover, hidden: true }] };
		const without = compile(hidden, STILL, NO_BLOBS, { ...NO_MAKERS }, new PartCache());
		expect([...without.parts.values()].some((part) => part.kind === "sheet")).toBe(false);
	});
});
