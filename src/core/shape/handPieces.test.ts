import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit } from "../doc/edits.ts";
import { drawnPiece, growPiece, liftPieces, slidePieces, turnPieceTowards } from "./handPieces.ts";

const shed = newPiece("shed", "box", { position: [2, 0.5, -8], size: [4, 3, 6], headingDeg: 10 });
const post = newPiece("post", "cylinder", { position: [0, 0, -3] });

describe("hands", () => {
	it("slide and lift several pieces at once, and nothing else of them", () => {
		expect(slidePieces([shed, post], 0.12345, -1).pieces).toEqual([
			{ id: "shed", position: [2.123, 0.5, -9] },
			{ id: "post", position: [0.123, 0, -4] },
		]);
		expect(liftPieces([shed], 0.25).pieces).toEqual([{ id: "shed", position: [2, 0.75, -8] }]);
	});
	it("make one size larger or smaller, but never nothing", () => {
		expect(growPiece(shed, 1, 0.456).pieces[0].size).toEqual([4, 3.46, 6]);
		expect(growPiece(shed, 0, -9).pieces[0].size).toEqual([0.02, 3, 6]);
	});
	it("turn a piece towards a place", () => {
		expect(turnPieceTowards(shed, [2, 0, -20]).pieces).toEqual([{ id: "shed", headingDeg: 0 }]);
		expect(turnPieceTowards(shed, [9, 0, -8]).pieces[0].headingDeg).toBe(90);
		expect(turnPieceTowards(shed, [2, 0, 4]).pieces[0].headingDeg).toBe(180);
	});
	it("draw a piece as wide as the drag went across, from where it began, facing the lens", () => {
		const drawn = { foot: [1, 0, -10] as const, right: [1, 0, 0] as const, acrossM: 2, upM: 3 };
		const [box] = drawnPiece("new", "box", drawn, [shed]).pieces;
		expect(box).toMatchObject({ name: "Box 2", position: [2, 0, -10], headingDeg: 0, size: [2, 3, 2] });
		const [left] = drawnPiece("new", "cone", { ...drawn, acrossM: -2, upM: 0.1 }, []).pieces;
		expect(left).toMatchObject({ name: "Cone 1", position: [0, 0, -10], size: [2, 2, 2] });
		const [ball] = drawnPiece("new", "sphere", drawn, []).pieces;
		expect(ball.size).toEqual([2, 2, 2]);
		expect(drawnPiece("new", "box", { ...drawn, acrossM: 0, upM: 0 }, []).pieces[0].size).toEqual([0.05, 0.05, 0.05]);
	});
	it("make edits that a shot takes", () => {
		const doc = { ...blankShot(), pieces: [shed, post] };
		for (const edit of [slidePieces([shed], 1, 1), growPiece(post, 2, 1), turnPieceTowards(post, [5, 0, 5])])
			expect(applyEdit(doc, edit).document.pieces).not.toEqual(doc.pieces);
	});
});
