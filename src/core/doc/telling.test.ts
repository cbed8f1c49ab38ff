import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "./defaults.ts";
import { applyEdit, type Edit } from "./edits.ts";
import { tellEdit } from "./telling.ts";

const doc = {
	...blankShot(),
	pieces: [newPiece("c", "box", { name: "Crane" }), newPiece("q", "box", { name: "Quay" })],
};
const told = (edit: Edit) => tellEdit(edit, doc, applyEdit(doc, edit).document);

describe("what an edit did", () => {
	it.each<[Edit, string]>([
		[{ name: "air.setSun", headingDeg: 212.04, elevationDeg: 4 }, "sun: heading 212°, elevation 4°"],
		[{ name: "air.setFog", visibilityM: 900 }, "fog: visibility 900 m"],
		[{ name: "piece.move", pieces: [{ id: "c", position: [1, 0, -20.123] }] }, "move Crane: position 1, 0, -20.1"],
		[{ name: "piece.setSurface", ids: ["c"], surface: { roughness: 0.4 } }, "surface of Crane: roughness 0.4"],
		[{ name: "piece.setHidden", ids: ["q"], hidden: true }, "show or leave out Quay: left out"],
		[{ name: "piece.remove", ids: ["c", "q"] }, "delete 2 things"],
		[{ name: "piece.remove", ids: ["c"] }, "delete Crane"],
		[
			{
				name: "piece.turn",
				pieces: [
					{ id: "c", headingDeg: 1 },
					{ id: "q", headingDeg: 2 },
				],
			},
			"turn 2 pieces",
		],
		[{ name: "air.setHaze", haze: 3.2 }, "haze: 3.2"],
		[{ name: "camera.setLens", focalMm: 50 }, "lens: focal 50 mm"],
		[{ name: "camera.setLocked", locked: true }, "lock or unlock: locked"],
		[{ name: "shot.setTitle", title: "Quay" }, 'title: "Quay"'],
	])("%o is told as %s", (edit, words) => expect(told(edit)).toBe(words));

	it("fits a line, however long its words", () => {
		const long = { ...doc, pieces: [newPiece("c", "box", { name: "x".repeat(80) })] };
		const edit: Edit = { name: "piece.turn", pieces: [{ id: "c", headingDeg: 12, pitchDeg: 3, rollDeg: 4 }] };
		const words = tellEdit(edit, long, applyEdit(long, edit).document);
		expect(words).toHaveLength(90);
		expect(words).toMatch(/^turn x+: hea/);
	});
});
