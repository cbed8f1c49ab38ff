import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "./defaults.ts";
import { applyEdit, applyPatches, type Edit, parseEdit } from "./edits.ts";
import { MOST_MASKS, ShotDocument } from "./schema.ts";

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

	it("takes pieces that are deleted out of stains, and what was painted on them with them", () => {
		const stroke = {
			points: [[0, 1, 0] as [number, number, number]],
			radiusM: 0.3,
			strength: 1,
			soft: 0.5,
			away: false,
		};
		const edits: Edit[] = [
			{ name: "piece.add", pieces: [newPiece("x", "box"), newPiece("y", "box")] },
			{ name: "mask.stroke", id: "m", on: "x", stroke },
			{ name: "mask.stroke", id: "m", on: "x", stroke: { ...stroke, away: true } },
			{ name: "mask.stroke", id: "n", on: null, stroke },
			{
				name: "stain.set",
				stain: {
					...{ id: "s", pieces: ["x", "y"], ground: false },
					laid: { of: "sand", seed: 1, turnDeg: 0, acrossM: 2, reliefMm: 10, tint: 0, wet: 0, share: 1, where: [] },
				},
			},
			{ name: "piece.remove", ids: ["x"] },
		];
		const before = edits.slice(0, -1).reduce((doc, edit) => applyEdit(doc, edit).document, blankShot());
		expect(before.masks?.map((mask) => mask.strokes.length)).toEqual([2, 1]);
		const { document: after, inverse } = applyEdit(before, edits[edits.length - 1]);
		expect(after.masks?.map((mask) => mask.id)).toEqual(["n"]);
		expect(after.stains?.[0].pieces).toEqual(["y"]);
		expect(applyPatches(after, inverse)).toEqual(before);
	});

	it("makes room for another mask by those that nothing names any more, and refuses when all are named", () => {
		const stroke = {
			points: [[0, 1, 0] as [number, number, number]],
			radiusM: 0.3,
			strength: 1,
			soft: 0.5,
			away: false,
		};
		const laid = { of: "sand", seed: 1, turnDeg: 0, acrossM: 2, reliefMm: 10, tint: 0, wet: 0 };
		const doc = blankShot();
		doc.masks = Array.from({ length: MOST_MASKS }, (_, n) => ({ id: `m${n}`, on: null, strokes: [stroke] }));
		const where = [{ kind: "painted" as const, mask: "m7" }];
		doc.groundLaid = { ...laid, over: [{ ...laid, share: 1, where }] };
		const { document } = applyEdit(doc, { name: "mask.stroke", id: "new", on: null, stroke });
		expect(document.masks?.map((mask) => mask.id)).toEqual(["m7", "new"]);
		const stains = doc.masks.slice(0, 40).map(({ id }) => ({
			...{ id, pieces: [], ground: true },
			laid: { ...laid, share: 1, where: [{ kind: "painted" as const, mask: id }] },
		}));
		const pieces = doc.masks.map(({ id }) => {
			const piece = newPiece(id, "box");
			const over = [{ ...laid, share: 1, where: [{ kind: "painted" as const, mask: id }] }];
			return { ...piece, surface: { ...piece.surface, laid: { ...laid, over } } };
		});
		const full = { ...doc, stains, pieces };
		expect(() => applyEdit(full, { name: "mask.stroke", id: "new", on: null, stroke })).toThrow(/at most/);
	});
});
