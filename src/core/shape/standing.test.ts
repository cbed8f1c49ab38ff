import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit, applyPatches, type Edit, EditError } from "../doc/edits.ts";
import type { ShotDocument } from "../doc/schema.ts";
import { frameOfView, project } from "../lens/camera.ts";
import { compile } from "../scene/compile.ts";
import { inFrame } from "./inFrame.ts";
import { outermost, pieceTransforms, topOf } from "./place.ts";
import { silhouette } from "./silhouette.ts";
import { pieceUnder, spotUnder } from "./underPoint.ts";

const quay = newPiece("quay", "box", { name: "Quay", position: [0, 0, -20], size: [30, 1.4, 12] });
const bollard = newPiece("bollard", "cylinder", {
	position: [2, 0, -18],
	size: [0.4, 0.6, 0.4],
	stands: { on: "quay" },
});
const lamp = newPiece("cap", "cone", { position: [2, 0, -18], size: [0.2, 0.2, 0.2], stands: { on: "bollard" } });
const shot = (over: Partial<ShotDocument> = {}): ShotDocument => ({
	...blankShot(),
	pieces: [quay, bollard, lamp],
	...over,
});
const edit = (doc: ShotDocument, e: Edit) => applyEdit(doc, e).document;
const footOf = (doc: ShotDocument, id: string) => {
	const piece = doc.pieces.find((p) => p.id === id);
	if (!piece) throw new Error(id);
	const [m] = pieceTransforms(piece, doc);
	return [m[3], m[7], m[11]];
};

describe("a piece that stands on another", () => {
	it("stands on the top of it under its foot, and so does what stands on that", () => {
		expect(footOf(shot(), "bollard")[1]).toBeCloseTo(1.4, 9);
		expect(footOf(shot(), "cap")[1]).toBeCloseTo(2, 9);
		// On the slope of a wedge it stands where that is under its foot.
		const ramp = newPiece("quay", "wedge", { position: [0, 0, -20], size: [30, 4, 12] });
		const heights = [-25, -20, -15].map((z) => topOf(ramp, 0, z, shot()));
		expect(heights[0]).not.toBeCloseTo(heights[2], 1);
		expect(heights[1]).toBeCloseTo((heights[0] + heights[2]) / 2, 6);
	});
	it("follows it: moved, raised, made higher and turned; and back by the inverse", () => {
		const doc = shot();
		const moved = edit(doc, { name: "piece.move", pieces: [{ id: "quay", position: [5, 0.5, -30] }] });
		expect(footOf(moved, "bollard")).toEqual([7, expect.closeTo(1.9, 9), -28]);
		expect(footOf(moved, "cap")).toEqual([7, expect.closeTo(2.5, 9), -28]);
		const higher = edit(doc, { name: "piece.size", pieces: [{ id: "quay", size: [30, 2, 12] }] });
		expect(footOf(higher, "cap")[1]).toBeCloseTo(2.6, 9);
		const applied = applyEdit(doc, { name: "piece.turn", pieces: [{ id: "quay", headingDeg: 90 }] });
		const turned = applied.document;
		const [x, , z] = footOf(turned, "bollard");
		expect([x, z]).toEqual([expect.closeTo(-2, 9), expect.closeTo(-18, 9)]);
		expect(turned.pieces[1].headingDeg).toBe(90);
		expect(applyPatches(turned, applied.inverse)).toEqual(doc);
		// Moved together with it, it is moved once.
		const both = edit(doc, {
			name: "piece.move",
			pieces: [
				{ id: "quay", position: [1, 0, -20] },
				{ id: "bollard", position: [3, 0, -18] },
			],
		});
		expect(footOf(both, "bollard")[0]).toBe(3);
		// And so is what stands on the second of them.
		expect(footOf(both, "cap")[0]).toBe(3);
	});
	it("is drawn there, and again when only what it stands on has changed", () => {
		const heights = (doc: ShotDocument) =>
			compile(doc)
				.root.draws.filter((d) => d.id > 3)
				.map((d) => d.transform[7]);
		const doc = shot();
		const before = heights(doc);
		const after = heights(edit(doc, { name: "piece.size", pieces: [{ id: "quay", size: [30, 3, 12] }] }));
		expect(after.map((y, i) => y - before[i]).slice(-2)).toEqual([expect.closeTo(1.6, 6), expect.closeTo(1.6, 6)]);
	});
	it("cannot stand on itself, on what stands on it, or on what is not there", () => {
		const stand = (id: string, on: string) => () => edit(shot(), { name: "piece.stand", ids: [id], stands: { on } });
		expect(stand("quay", "cap")).toThrow(/stand on itself/);
		expect(stand("quay", "quay")).toThrow(EditError);
		expect(stand("quay", "nowhere")).toThrow(/no piece "nowhere"/);
		expect(stand("cap", "quay")).not.toThrow();
	});
	it("stays as high when what it stood on is deleted", () => {
		const doc = edit(shot(), { name: "piece.remove", ids: ["quay"] });
		expect(footOf(doc, "bollard")[1]).toBeCloseTo(1.4, 9);
		expect(doc.pieces[0].stands).toBe("ground");
	});
});

describe("what is under the pointer", () => {
	const doc = shot({ camera: { ...blankShot().camera, position: [0, 4, 0], pitchDeg: -10 } });
	const view = frameOfView(doc.camera);
	const at = (p: readonly [number, number, number]) => project(view, p);
	it("is the piece that is seen there; what is set there stands on its top", () => {
		expect(pieceUnder(view, doc, at([-5, 1.4, -20]))?.piece.id).toBe("quay");
		const spot = spotUnder(view, doc, at([-5, 1.4, -20]));
		expect(spot).toMatchObject({ stands: { on: "quay" }, on: { name: "Quay" } });
		expect(spot?.foot.map((v) => Number(v.toFixed(3)))).toEqual([-5, 1.4, -20]);
		expect(pieceUnder(view, doc, at([2, 1.7, -18]))?.piece.id).toBe("bollard");
	});
	it("is the ground before and beside it, and what is set before its side stands there", () => {
		expect(spotUnder(view, doc, at([-5, 0, -8]))).toMatchObject({ stands: "ground", on: null });
		const before = spotUnder(view, doc, at([-5, 0.7, -14]));
		expect(before).toMatchObject({ stands: "ground", foot: [expect.closeTo(-5, 6), 0, expect.closeTo(-14, 6)] });
		expect(spotUnder(view, doc, { x: 0.5, y: 0.01 })).toBeNull();
	});
	it("leaves out what is left out", () => {
		const without = { ...doc, pieces: [{ ...quay, hidden: true }] };
		expect(pieceUnder(view, without, at([-5, 1.4, -20]))).toBeNull();
	});
});

describe("a leaned piece", () => {
	const lowest = (piece: typeof quay) => Math.min(...outermost(piece, shot()).map((p) => p[1]));
	it.each(["box", "cylinder", "cone", "sphere", "wedge"] as const)("a %s rests on what is under it", (kind) => {
		for (const turn of [{ pitchDeg: 90 }, { rollDeg: -60 }, { pitchDeg: 170, rollDeg: 20 }]) {
			const piece = newPiece("p", kind, { size: [1, 3, 2], ...turn });
			// Of a ball some of its outermost places are kept.
			const digits = kind === "sphere" ? 1 : 6;
			expect(lowest({ ...piece, rests: true })).toBeCloseTo(0, digits);
			expect(lowest({ ...piece, rests: true, stands: { on: "quay" }, position: [0, 0, -20] })).toBeCloseTo(1.4, digits);
			// Those of before stay turned about their foot.
			expect(lowest(piece)).toBeLessThan(-0.1);
		}
		const upright = newPiece("p", kind);
		expect(pieceTransforms({ ...upright, rests: true }, shot())).toEqual(pieceTransforms(upright, shot()));
	});
});

describe("what of a piece is in the frame", () => {
	const camera = { ...blankShot().camera, position: [0, 1.6, 0] as [number, number, number] };
	const view = frameOfView(camera);
	const doc = shot({ camera });
	it("of one that reaches behind the lens is what lies before it", () => {
		const path = newPiece("path", "box", { position: [0, -0.2, 0], stands: "level", size: [4, 0.21, 400] });
		const seen = inFrame(path, doc, view);
		// Down to the frame's lower edge, up to near the horizon; the nearest is seen at the lower edge.
		expect(seen?.box.y1).toBeCloseTo(1, 6);
		expect(seen?.box.y0).toBeGreaterThan(0.5);
		expect(seen?.box.y0).toBeLessThan(0.53);
		const below = Math.hypot(1.59, 1.59 / view.tanY);
		expect(seen?.nearM).toBeCloseTo(below, 2);
		expect(seen?.farM).toBeCloseTo(200, 0);
	});
	it("of a wall that fills the frame is all of it, at its nearest point", () => {
		const wall = newPiece("wall", "box", { position: [0, -50, -10], stands: "level", size: [100, 100, 1] });
		const seen = inFrame(wall, doc, view);
		expect(seen?.box).toEqual({
			x0: expect.closeTo(0, 6),
			x1: expect.closeTo(1, 6),
			y0: expect.closeTo(0, 6),
			y1: expect.closeTo(1, 6),
		});
		expect(seen?.nearM).toBeCloseTo(9.5, 6);
	});
	it("is what reaches in of a bar beside the frame, and nothing of one that does not", () => {
		const x = view.tanX * 30 + 3;
		const bar = newPiece("bar", "box", { position: [x, 0, -30], size: [0.2, 0.2, 8], headingDeg: 45 });
		expect(inFrame(bar, doc, view)).toBeNull();
		expect(inFrame({ ...bar, headingDeg: -45 }, doc, view)?.box).toMatchObject({ x0: expect.closeTo(0.96, 2), x1: 1 });
		expect(inFrame({ ...bar, position: [0, 0, -30] }, doc, view)?.nearM).toBeGreaterThan(26);
	});
});

describe("the outline of a piece", () => {
	const view = frameOfView({ ...blankShot().camera, position: [0, 1.6, 0] });
	it("of a box is the border of its projection: every corner that is seen at its rim, and none within", () => {
		const box = newPiece("b", "box", { position: [3, 0, -15], size: [2, 3, 2], headingDeg: 20 });
		const lines = silhouette(box, shot(), view);
		expect(lines).toHaveLength(6);
		const corners = outermost(box, shot()).map((p) => project(view, p));
		for (const extreme of [Math.min(...corners.map((c) => c.x)), Math.max(...corners.map((c) => c.x))])
			expect(lines.some(([x1, , x2]) => Math.min(Math.abs(x1 - extreme), Math.abs(x2 - extreme)) < 1e-9)).toBe(true);
		// Closed: every end is met by another.
		const ends = lines.flatMap(([a, b, c, d]) => [
			`${a.toFixed(6)} ${b.toFixed(6)}`,
			`${c.toFixed(6)} ${d.toFixed(6)}`,
		]);
		for (const end of ends) expect(ends.filter((e) => e === end)).toHaveLength(2);
	});
	it("of a ball is round", () => {
		const ball = newPiece("b", "sphere", { position: [0, 0.6, -20], size: [2, 2, 2] });
		const aspect = view.tanX / view.tanY;
		const middle = project(view, [0, 1.6, -20]);
		for (const [x, y] of silhouette(ball, shot(), view)) {
			const r = Math.hypot((x - middle.x) * aspect, y - middle.y) * 2 * view.tanY * 20;
			expect(r).toBeGreaterThan(0.95);
			expect(r).toBeLessThan(1.05);
		}
	});
	it("is cut where a body reaches behind the lens", () => {
		const path = newPiece("p", "box", { position: [0, 0, 0], size: [4, 0.1, 40] });
		for (const line of silhouette(path, shot(), view)) for (const v of line) expect(Number.isFinite(v)).toBe(true);
	});
});
