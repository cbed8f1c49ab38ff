import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { applyEdit } from "../doc/edits.ts";
import { newCover } from "../dress/plant.ts";
import { pieceTransforms } from "../shape/place.ts";
import { compile } from "./compile.ts";
import { NO_BLOBS, NO_MAKERS, STILL } from "./inputs.ts";
import { PartCache } from "./partCache.ts";

describe("compile", () => {
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
		const piece = { ...blankShot().pieces[0], headingDeg: 90, repeat: { count: 3, step: [0, 2] as [number, number] } };
		const [a, b] = pieceTransforms(piece, blankShot());
		expect(b[3] - a[3]).toBeCloseTo(2);
		expect(b[11] - a[11]).toBeCloseTo(0);
	});
});
