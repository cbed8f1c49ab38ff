import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { usualMove } from "../doc/edits/move.ts";
import { type ImageSurface, Shape, type ShotDocument } from "../doc/schema.ts";
import { cameraAxes } from "../maths/axes.ts";
import { headingToLens, pieceTransforms } from "../shape/place.ts";
import { documentAt } from "./documentAt.ts";
import { frameOf } from "./moment.ts";

const file = (n: number, as: "colours" | "cut") => ({
	...{ file: `${n}`.repeat(64), name: `frame ${n}`, widthPx: 8, heightPx: 8, bits: 8, as },
});
const BIRD: ImageSurface = {
	...{ id: "bird", name: "Bird", sideM: 1, highM: 1, depthMm: 0, handed: "up" },
	files: { colour: file(1, "colours"), cut: file(1, "cut") },
	sequence: {
		perS: 4,
		frames: [{ colour: file(2, "colours"), cut: file(2, "cut") }, { colour: file(3, "colours") }],
	},
};
const STILL_ONE: ImageSurface = { ...BIRD, id: "sign", sequence: undefined };

const card = (id: string, turns: string, position: [number, number, number]) =>
	newPiece(id, "card", { shape: Shape.parse({ kind: "card", turns }), position, headingDeg: 30 });

const shot = (): ShotDocument => ({
	...blankShot(),
	imageSurfaces: [BIRD, STILL_ONE],
	pieces: [card("turns", "turns to the lens", [3, 0, -4]), card("stands", "stands as it is turned", [-3, 0, -4])],
});

describe("a sequence of pictures", () => {
	it("shows so many frames a second from the beginning on, the first again after the last", () => {
		const { sequence } = BIRD as { sequence: NonNullable<ImageSurface["sequence"]> };
		const numbers = [0, 0.2, 0.25, 0.5, 0.74, 0.75, 1, 10, -0.1].map((t) => frameOf(sequence, t));
		expect(numbers).toEqual([0, 0, 1, 2, 2, 0, 1, 1, 2]);
	});

	it("stands in the document at a moment as its frame; all else stays the same object", () => {
		const doc = { ...shot(), pieces: [], move: usualMove() as NonNullable<ShotDocument["move"]> };
		const at = (t: number | null) => documentAt(doc, t).imageSurfaces ?? [];
		expect(at(null)).toBe(doc.imageSurfaces);
		expect(at(0)[0]).toBe(BIRD);
		expect(at(0.25)[0].files).toEqual({ colour: file(2, "colours"), cut: file(2, "cut") });
		// A frame that lets nothing through has no cut-out.
		expect(at(0.5)[0].files.cut).toBeUndefined();
		expect(at(0.25)[1]).toBe(STILL_ONE);
		expect(at(1)[0]).toBe(at(0.25)[0]);
	});
});

describe("a card that turns to the lens", () => {
	it("has its front look at the lens, upright, wherever that stands; others stay as they are", () => {
		for (const position of [
			[0, 1.6, 0],
			[8, 30, -4],
			[3, 2, -9],
		] as [number, number, number][]) {
			const doc = shot();
			doc.camera = { ...doc.camera, position };
			const [turns, stands] = documentAt(doc, null).pieces;
			const { forward } = cameraAxes(turns.headingDeg, turns.pitchDeg, turns.rollDeg);
			const [dx, dz] = [position[0] - 3, position[2] + 4];
			const far = Math.hypot(dx, dz);
			expect(-forward[0]).toBeCloseTo(dx / far, 6);
			expect(-forward[2]).toBeCloseTo(dz / far, 6);
			expect(forward[1]).toBeCloseTo(0, 9);
			expect(stands).toBe(doc.pieces[1]);
		}
		expect(headingToLens([0, 0, -5], [0, 1, 0])).toBeCloseTo(0, 9);
	});

	it("of a row stands where it stood and turns by itself", () => {
		const row = card("row", "turns to the lens", [-6, 0, -8]);
		row.repeat = { kind: "row", count: 5, step: [3, 0] };
		const position: [number, number, number] = [1, 1.6, 2];
		const doc = { ...blankShot(), camera: { ...blankShot().camera, position }, pieces: [row] };
		const place = { ground: doc.ground, pieces: [] };
		const stood = pieceTransforms(row, place);
		const turned = pieceTransforms(documentAt(doc, null).pieces[0], place);
		expect(turned).toHaveLength(5);
		for (const [i, m] of turned.entries()) {
			expect([m[3], m[7], m[11]]).toEqual([stood[i][3], stood[i][7], stood[i][11]]);
			const far = Math.hypot(position[0] - m[3], position[2] - m[11]);
			// Its third column leads out of its front.
			const deep = Math.hypot(m[2], m[6], m[10]);
			expect(m[2] / deep).toBeCloseTo((position[0] - m[3]) / far, 6);
			expect(m[10] / deep).toBeCloseTo((position[2] - m[11]) / far, 6);
		}
	});

	it("is the same object again while the lens stands, and the document itself where there is none", () => {
		const doc = shot();
		expect(documentAt(doc, null)).toBe(documentAt(doc, null));
		expect(documentAt({ ...doc }, null).pieces[0]).toBe(documentAt(doc, null).pieces[0]);
		const none = { ...doc, pieces: doc.pieces.slice(1) };
		expect(documentAt(none, null)).toBe(none);
	});
});
