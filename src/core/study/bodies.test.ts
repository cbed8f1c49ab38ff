import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { newCover } from "../dress/plant.ts";
import { compile } from "../scene/compile.ts";
import { FIRST_PIECE } from "../scene/ids.ts";
import { bulkOf } from "./bodies.ts";

describe("the bulk of things", () => {
	const doc = blankShot();
	doc.pieces = [
		newPiece("box", "box", { size: [2, 3, 4], headingDeg: 30, pitchDeg: 20 }),
		newPiece("row", "wedge", { size: [1, 2, 1], repeat: { kind: "row", count: 5, step: [3, 0] } }),
		newPiece("pair", "stair", { size: [1, 1, 1], repeat: { kind: "facing", acrossM: 4 } }),
		newPiece("sheet", "plane"),
		newPiece("gone", "box", { hidden: true }),
	];
	doc.covers = [newCover("c", "tussock", { densityPerM2: 0.02 })];
	const scene = compile(doc);
	const bulk = bulkOf(scene, doc.pieces);
	it("is what its copies enclose together, and none of what is open", () => {
		const volumes = [0, 1, 2, 3].map((i) => bulk.get(FIRST_PIECE + i)?.volumeM3);
		expect(volumes).toEqual([expect.closeTo(24, 4), expect.closeTo(5, 4), expect.closeTo((2 * 7) / 12, 4), null]);
		expect(bulk.has(FIRST_PIECE + 4)).toBe(false);
	});
	it("is what is traced for it in triangles, plants too", () => {
		expect([0, 1, 3].map((i) => bulk.get(FIRST_PIECE + i)?.triangles)).toEqual([12, 40, 2]);
		const cover = bulk.get(FIRST_PIECE + doc.pieces.length);
		expect(cover?.triangles).toBeGreaterThan(scene.root.covers[0].count);
		expect(cover?.volumeM3).toBeNull();
	});
});
