import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "./defaults.ts";
import { applyEdit, applyPatches, type Edit, parseEdit } from "./edits.ts";
import { ShotDocument } from "./schema.ts";

describe("edits", () => {
	it("lead back through their inverse patches, in any order of any edits", () => {
		const position = fc.tuple(
			fc.double({ min: -99, max: 99, noNaN: true }),
			fc.constant(0),
			fc.double({ min: -99, max: 99, noNaN: true }),
		);
		const anyEdit = fc.oneof(
			position.map(
				(p): Edit => ({ name: "piece.move", pieces: [{ id: "staff-0", position: p as [number, number, number] }] }),
			),
			fc.string({ maxLength: 20 }).map((idea): Edit => ({ name: "shot.setIdea", idea })),
			fc.integer({ min: 0, max: 99 }).map((seed): Edit => ({ name: "ground.set", seed })),
			fc.boolean().map((locked): Edit => ({ name: "camera.setLocked", locked })),
		);
		fc.assert(
			fc.property(fc.array(anyEdit, { maxLength: 30 }), (list) => {
				const start = blankShot();
				let doc: typeof start = start;
				const back = [];
				for (const edit of list) {
					const step = applyEdit(doc, edit);
					expect(applyPatches(doc, step.forward)).toEqual(step.document);
					back.push(step.inverse);
					doc = step.document;
				}
				for (const inverse of back.reverse()) doc = applyPatches(doc, inverse);
				expect(doc).toEqual(start);
			}),
		);
	});

	it("refuse numbers out of range or not finite and name the field", () => {
		expect(() => parseEdit({ name: "air.setSun", elevationDeg: 400 })).toThrow(/air.setSun: elevationDeg/);
		expect(() => parseEdit({ name: "air.setSun", elevationDeg: Number.NaN })).toThrow(/elevationDeg/);
		expect(() => parseEdit({ name: "path.set" })).toThrow(/no edit named/);
		expect(() =>
			parseEdit({ name: "match.addLine", line: { id: "a", axis: "along", x1: 5, y1: 5, x2: 5, y2: 5 } }),
		).toThrow(/length/);
	});

	it("never move a locked camera, except by an explicit unlock", () => {
		const locked = applyEdit(blankShot(), { name: "camera.setLocked", locked: true }).document;
		expect(() => applyEdit(locked, { name: "camera.place", headingDeg: 5 })).toThrow(/locked/);
		expect(() => applyEdit(locked, { name: "camera.setLens", focalMm: 50 })).toThrow(/locked/);
		expect(applyEdit(locked, { name: "camera.setLens", ev100: 9 }).document.camera.ev100).toBe(9);
	});

	it("keep the document valid", () => {
		const doc = applyEdit(blankShot(), { name: "piece.add", pieces: [newPiece("a", "cone")] }).document;
		expect(ShotDocument.parse(doc)).toEqual(doc);
		expect(() => applyEdit(doc, { name: "piece.add", pieces: [newPiece("a", "cone")] })).toThrow(/already/);
	});
});
