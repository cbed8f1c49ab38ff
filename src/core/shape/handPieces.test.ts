import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit, type Edit } from "../doc/edits.ts";
import { type Piece, Shape } from "../doc/schema.ts";
import { cameraAxes } from "../maths/axes.ts";
import type { Vec3 } from "../maths/vec.ts";
import {
	commonOf,
	drawnPiece,
	growPiece,
	laidPiece,
	leanPiece,
	liftPieces,
	quantityOf,
	setQuantity,
	slidePieces,
	stepQuantity,
	tappedPiece,
	turnPieceAlong,
} from "./handPieces.ts";
import { middleOfFeet, turnTogether } from "./together.ts";

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
	it("turn a piece as far as the hand goes round its foot, from wherever it begins", () => {
		const east = [9, 0, -8] as const;
		const turn = (from: readonly [number, number, number], to: readonly [number, number, number]) =>
			turnPieceAlong(shed, from, to).pieces[0].headingDeg;
		expect(turn([2, 0, -20], east)).toBe(100);
		expect(turn(east, [2, 0, 4])).toBe(100);
		expect(turn(east, [2, 0, -20])).toBe(-80);
		expect(turn([2, 0, -20], [2, 0, 4])).toBe(-170);
		expect(turn(east, east)).toBe(10);
	});
	it("draw a piece as wide as the drag went across, from where it began, facing the lens", () => {
		const drawn = {
			foot: [1, 0, -10] as const,
			stands: "ground" as const,
			right: [1, 0, 0] as const,
			acrossM: 2,
			upM: 3,
		};
		const [box] = drawnPiece("new", "box", drawn, [shed]).pieces;
		expect(box).toMatchObject({ name: "Box 2", position: [2, 0, -10], headingDeg: 0, size: [2, 3, 2] });
		const [left] = drawnPiece("new", "cone", { ...drawn, acrossM: -2, upM: 0.1 }, []).pieces;
		expect(left).toMatchObject({ name: "Cone 1", position: [0, 0, -10], size: [2, 2, 2] });
		const [ball] = drawnPiece("new", "sphere", drawn, []).pieces;
		expect(ball.size).toEqual([2, 2, 2]);
		expect(drawnPiece("new", "box", { ...drawn, acrossM: 0, upM: 0 }, []).pieces[0].size).toEqual([0.05, 0.05, 0.05]);
	});
	it("draw a piece along the place where that is said: as wide as the drag went across all the same", () => {
		const h = 35 * (Math.PI / 180);
		const drawn = {
			foot: [1, 1.4, -10] as const,
			stands: { on: "shed" },
			right: [Math.cos(h), 0, Math.sin(h)] as const,
			acrossM: 2,
			upM: 3,
			headingDeg: 0,
		};
		const [box] = drawnPiece("new", "box", drawn, [shed]).pieces;
		expect(box).toMatchObject({ headingDeg: 0, stands: { on: "shed" }, rests: true });
		// Its corners seen from the lens, along its right.
		const across = [-0.5, 0.5].flatMap((x) =>
			[-0.5, 0.5].map((z) => x * box.size[0] * drawn.right[0] + z * box.size[2] * drawn.right[2]),
		);
		expect(Math.max(...across) - Math.min(...across)).toBeCloseTo(2, 1);
		expect(drawnPiece("new", "cylinder", drawn, []).pieces[0].size).toEqual([2, 3, 2]);
	});
	it("lean a piece towards where its crown is drawn, and upright again", () => {
		for (const turn of [
			{ pitchDeg: 20, rollDeg: 0 },
			{ pitchDeg: 0, rollDeg: -35 },
			{ pitchDeg: 30, rollDeg: 25 },
		]) {
			const { up } = cameraAxes(40, turn.pitchDeg, turn.rollDeg);
			expect(leanPiece({ ...shed, headingDeg: 40 }, up).pieces).toEqual([{ id: "shed", ...turn, rests: true }]);
		}
		expect(leanPiece(shed, [0.01, 1, 0.01]).pieces[0]).toMatchObject({ pitchDeg: 0, rollDeg: 0 });
	});
	it("set measures of several at once: by steps, as values, turned together", () => {
		const both = [shed, post];
		expect(commonOf(both, "right")).toBeNaN();
		const set = (edit: Edit) => applyEdit({ ...blankShot(), pieces: both }, edit).document.pieces;
		const all = set(setQuantity(both, "up", () => 1.5));
		expect(commonOf(all, "up")).toBe(1.5);
		expect(set(setQuantity(both, "away", (v) => v + 2)).map((p) => quantityOf(p, "away"))).toEqual(
			both.map((p) => quantityOf(p, "away") + 2),
		);
		expect(set(stepQuantity(both, "height", -100)).map((p) => p.size[1])).toEqual([0.001, 0.001]);
		expect(set(setQuantity(both, "pitch", () => 190)).map((p) => p.pitchDeg)).toEqual([-170, -170]);
		const turned = set(turnTogether(both, 90, middleOfFeet(both)));
		const between = ([a, b]: typeof both) => [b.position[0] - a.position[0], b.position[2] - a.position[2]];
		const [dx, dz] = between(both);
		expect(between(turned)[0]).toBeCloseTo(-dz, 2);
		expect(between(turned)[1]).toBeCloseTo(dx, 2);
		expect(turned[0].headingDeg).toBe(shed.headingDeg + 90);
	});
	it("mirror by a size below 0, and back", () => {
		const doc = { ...blankShot(), pieces: [shed] };
		const set = (piece: Piece, height: number) =>
			applyEdit(
				{ ...doc, pieces: [piece] },
				setQuantity([piece], "height", () => height),
			).document.pieces[0];
		const upside = set(shed, -2);
		expect(upside).toMatchObject({ size: [shed.size[0], 2, shed.size[2]], mirrored: [false, true, false] });
		expect(quantityOf(upside, "height")).toBe(-2);
		expect(set(upside, 3)).toMatchObject({ size: [shed.size[0], 3, shed.size[2]], mirrored: [false, false, false] });
		const longer = applyEdit({ ...doc, pieces: [upside] }, stepQuantity([upside], "height", 1)).document.pieces[0];
		expect(quantityOf(longer, "height")).toBe(-3);
	});
	it("put another one down as large as the last of its kind, and lay one from corner to corner", () => {
		const put = { foot: [4, 0, -6] as Vec3, stands: "ground" as const, headingDeg: 90 };
		const [first] = tappedPiece("n", "stair", put, []).pieces;
		expect(first).toMatchObject({ name: "Stair 1", size: [1, 0.7, 1.4], position: [4, 0, -6], headingDeg: 90 });
		const last = {
			...first,
			id: "last",
			size: [2, 3, 4] as Piece["size"],
			shape: Shape.parse({ kind: "stair", steps: 20 }),
		};
		const [next] = tappedPiece("n", "stair", put, [first, last]).pieces;
		expect(next).toMatchObject({ name: "Stair 3", size: [2, 3, 4], shape: { steps: 20 } });
		// Facing east, its right is south: two metres that way are its width.
		const [laid] = laidPiece("n", "plane", put, [9, 0, -4], []).pieces;
		expect(laid.size[0]).toBeCloseTo(2, 6);
		expect(laid.size[2]).toBeCloseTo(5, 6);
		expect(laid.position).toEqual([6.5, 0, -5]);
	});
	it("make edits that a shot takes", () => {
		const doc = { ...blankShot(), pieces: [shed, post] };
		for (const edit of [slidePieces([shed], 1, 1), growPiece(post, 2, 1), turnPieceAlong(post, [5, 0, -3], [5, 0, 5])])
			expect(applyEdit(doc, edit).document.pieces).not.toEqual(doc.pieces);
	});
});
