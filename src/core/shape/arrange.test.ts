import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit, EditError } from "../doc/edits.ts";
import type { Piece } from "../doc/schema.ts";
import { groundSlope } from "../ground/height.ts";
import { alignPieces, dropPieces, type Line, leanWithUnder, spreadPieces } from "./arrange.ts";
import { outermost, pieceFrames } from "./place.ts";

const shot = (...pieces: Piece[]) => ({ ...blankShot(), pieces });
const extent = (p: Piece, doc: ReturnType<typeof shot>, c: 0 | 1 | 2) => {
	const all = outermost(p, doc).map((q) => q[c]);
	return [Math.min(...all), Math.max(...all)];
};

describe("pieces are brought into line", () => {
	const wall = newPiece("wall", "box", { position: [10, 0, -20], size: [4, 3, 2] });
	const turned = newPiece("turned", "box", { position: [2, 1, -8], size: [1, 2, 1], headingDeg: 45 });
	const doc = shot(wall, turned);
	it.each<[Line, 0 | 1 | 2, 0 | 1, number]>([
		["left", 0, 0, 8],
		["right", 0, 1, 12],
		["near", 2, 1, -19],
		["away", 2, 0, -21],
		["foot", 1, 0, 0],
		["top", 1, 1, 3],
	])("by their %s", (line, c, end, value) => {
		const { document } = applyEdit(doc, alignPieces([wall, turned], wall, line, doc));
		expect(document.pieces[0]).toEqual(wall);
		expect(extent(document.pieces[1], document as typeof doc, c)[end]).toBeCloseTo(value, 2);
	});
	it("by their middles, across the heading of the one that stays", () => {
		const facing = { ...wall, headingDeg: 90 };
		const own = shot(facing, turned);
		const { document } = applyEdit(own, alignPieces([turned], facing, "middle", own));
		expect(document.pieces[1].position[2]).toBeCloseTo(-20, 2);
		expect(document.pieces[1].position[0]).toBe(2);
	});
});

describe("pieces are spread", () => {
	it("with as much free between them, the outer ones staying", () => {
		const at = (id: string, x: number, w: number) => newPiece(id, "box", { position: [x, 0, 0], size: [w, 1, 1] });
		const [a, b, c, d] = [at("a", 0, 1), at("b", 7, 2), at("c", 3, 4), at("d", 20, 1)];
		const doc = shot(a, b, c, d);
		const { document } = applyEdit(doc, spreadPieces(doc.pieces, doc) as never);
		const ends = document.pieces.map((p) => extent(p, document as typeof doc, 0)).sort((p, q) => p[0] - q[0]);
		const gaps = ends.slice(1).map(([low], i) => low - ends[i][1]);
		for (const gap of gaps) expect(gap).toBeCloseTo(13 / 3, 2);
		expect(document.pieces[0]).toEqual(a);
		expect(document.pieces[3]).toEqual(d);
		expect(spreadPieces([a, b], doc)).toBeNull();
	});
});

describe("pieces fall", () => {
	const table = newPiece("table", "box", { position: [0, 0, -5], size: [4, 1, 4] });
	const shelf = newPiece("shelf", "box", { position: [0, 6, -5], stands: "level", size: [4, 0.1, 4] });
	const ball = newPiece("ball", "sphere", { position: [0.5, 3, -5], stands: "level" });
	it("on what is under them, not on what hangs over them", () => {
		const doc = shot(table, shelf, ball);
		const { document } = applyEdit(doc, dropPieces([ball], doc));
		expect(document.pieces[2]).toMatchObject({ stands: { on: "table" }, position: [0.5, 0, -5], rests: true });
		expect(extent(document.pieces[2], document as typeof doc, 1)).toEqual([expect.closeTo(1, 1), expect.closeTo(2, 1)]);
	});
	it("on the ground where nothing is, and never on each other or on what they carry", () => {
		const beside = { ...ball, position: [9, 3, -5] as Piece["position"] };
		const carried = newPiece("carried", "box", { stands: { on: "table" }, position: [0, 0, -5] });
		const doc = shot(table, beside, carried);
		const { document } = applyEdit(doc, dropPieces([table, beside], doc));
		expect(document.pieces.map((p) => p.stands)).toEqual(["ground", "ground", { on: "table" }]);
	});
});

describe("pieces lean", () => {
	const up = (p: Piece, doc: ReturnType<typeof shot>) => {
		const [m] = pieceFrames(p, doc);
		return [m[1], m[5], m[9]];
	};
	const away = (a: readonly number[], b: readonly number[]) =>
		Math.acos(
			Math.min(
				1,
				a.reduce((s, v, c) => s + v * b[c], 0),
			),
		) *
		(180 / Math.PI);

	it("as the ground under them does, whatever their heading, and stay on it", () => {
		const posts = [0, 50, -120].map((headingDeg, i) =>
			newPiece(`p${i}`, "box", { position: [30 * i - 20, 0, -60 - 25 * i], size: [1, 3, 0.6], headingDeg }),
		);
		const doc = { ...shot(...posts), ground: { preset: "plain" as const, seed: 3, heightM: 30 } };
		const { document } = applyEdit(doc, leanWithUnder(posts, doc));
		for (const p of document.pieces) {
			const { dx, dz } = groundSlope(doc.ground, p.position[0], p.position[2]);
			const l = Math.hypot(dx, 1, dz);
			expect(away(up(p, document), [-dx / l, 1 / l, -dz / l])).toBeLessThan(1.2);
			expect(p.headingDeg).toBe(posts.find((o) => o.id === p.id)?.headingDeg);
		}
		// Where it is level they are set upright again.
		const level = { ...document, ground: { ...doc.ground, heightM: 0 } };
		const upright = applyEdit(level, leanWithUnder(document.pieces, level)).document;
		expect(upright.pieces.map((p) => [p.pitchDeg, p.rollDeg])).toEqual(posts.map(() => [0, 0]));
	});
	it("as the roof does that they stand on", () => {
		const roof = newPiece("roof", "wedge", { position: [0, 0, -10], size: [4, 2, 4] });
		const vane = newPiece("vane", "box", { stands: { on: "roof" }, position: [0, 0, -10], size: [0.4, 1, 0.4] });
		const doc = shot(roof, vane);
		const leaned = applyEdit(doc, leanWithUnder([vane], doc)).document;
		expect(away(up(leaned.pieces[1], leaned), [0, 1, 0])).toBeCloseTo((Math.atan(0.5) * 180) / Math.PI, 0);
	});
});

describe("a piece that is held", () => {
	it("is not moved, turned or sized until it is let go, and goes with what carries it", () => {
		const table = newPiece("table", "box", { size: [4, 1, 4] });
		const cup = newPiece("cup", "cylinder", { name: "Cup", stands: { on: "table" } });
		const held = applyEdit(shot(table, cup), { name: "piece.setHeld", ids: ["cup"], held: true }).document;
		for (const edit of [
			{ name: "piece.move", pieces: [{ id: "cup", position: [1, 0, 0] }] },
			{ name: "piece.turn", pieces: [{ id: "cup", headingDeg: 5 }] },
			{ name: "piece.size", pieces: [{ id: "cup", size: [1, 2, 1] }] },
			{ name: "piece.stand", ids: ["cup"], stands: "level" },
		] as const)
			expect(() => applyEdit(held, structuredClone(edit) as never)).toThrow(
				new EditError("held", `"Cup" is held. Let it go before it is moved.`),
			);
		const carried = applyEdit(held, { name: "piece.move", pieces: [{ id: "table", position: [3, 0, 0] }] }).document;
		expect(carried.pieces[1].position).toEqual([3, 0, 0]);
		const free = applyEdit(held, { name: "piece.setHeld", ids: ["cup"], held: false }).document;
		expect(free.pieces[1]).toEqual(cup);
	});
});
