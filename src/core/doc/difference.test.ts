import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "./defaults.ts";
import { differenceOf, withDifference } from "./difference.ts";
import { applyEdit, type Edit } from "./edits.ts";
import type { ShotDocument } from "./schema.ts";

const edited = (doc: ShotDocument, ...edits: Edit[]): ShotDocument =>
	edits.reduce((d, e) => applyEdit(d, e).document, doc);
const many = edited(blankShot(), {
	name: "piece.add",
	pieces: Array.from({ length: 40 }, (_, i) => newPiece(`p${i}`, "box")),
});

describe("what has changed between two documents", () => {
	it("is all of it at first, and nothing between a document and itself", () => {
		expect(withDifference(null, differenceOf(null, many))).toEqual(many);
		expect(differenceOf(many, many)).toEqual({ fields: {}, gone: [], pieces: [] });
	});
	it("names one piece that was moved, and makes the later document of the earlier one", () => {
		const after = edited(many, { name: "piece.move", pieces: [{ id: "p7", position: [3, 0, -9] }] });
		const d = differenceOf(many, after);
		expect(d.fields).toEqual({});
		expect(d.pieces.map(([place]) => many.pieces[place].id)).toEqual(["p7"]);
		const made = withDifference(many, d);
		expect(made).toEqual(after);
		expect(made.pieces[8]).toBe(many.pieces[8]);
		expect(many.pieces.find((p) => p.id === "p7")?.position).toEqual([0, 0, 0]);
	});
	it("tells the whole list when its length or most of it is another, and fields that are gone", () => {
		for (const e of [
			{ name: "piece.remove", ids: ["p3"] },
			{ name: "piece.setHidden", ids: many.pieces.map((p) => p.id), hidden: true },
		] as Edit[]) {
			const after = edited(many, e);
			const d = differenceOf(many, after);
			expect(d.fields.pieces).toBe(after.pieces);
			expect(withDifference(many, d)).toEqual(after);
		}
		const guided = edited(many, { name: "guides.set", guides: ["thirds"] });
		const { guides: _, ...bare } = guided;
		expect(differenceOf(guided, bare as ShotDocument).gone).toEqual(["guides"]);
		expect(withDifference(guided, differenceOf(guided, bare as ShotDocument))).toEqual(bare);
	});
});
