import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit } from "../doc/edits.ts";
import { corners, type Piece, REPEAT_KINDS, Repeat } from "../doc/schema.ts";
import type { Mesh } from "../maths/mesh.ts";
import { determinant, transformPoint } from "../maths/vec.ts";
import { compile } from "../scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../scene/inputs.ts";
import { PartCache } from "../scene/partCache.ts";
import { STILL } from "../time/frames.ts";
import { copiesOf, countOf, everyCopy, scaledRepeat, withSingle } from "./copies.ts";
import { insertLinePoint, moveCopy, moveLinePoint, moveRingCentre, setApart, turnLinePoint } from "./handPieces.ts";
import { copiesInWorld, pieceTransforms } from "./place.ts";

const KINDS: Repeat[] = [
	{ kind: "row", count: 5, step: [1, 2] },
	{ kind: "field", columns: 3, rows: 4, step: [2, 5] },
	{ kind: "ring", count: 12, centre: [0, 3], arcDeg: 360, turned: true },
	{ kind: "along", count: 7, points: corners<[number, number]>([0, 0], [3.1, 0.2], [3.4, 2.9]), turned: true },
	{ kind: "facing", acrossM: 6 },
];

const post = (repeat: Repeat, over: Partial<Piece> = {}) => newPiece("post", "wedge", { repeat, ...over });

describe("repeats", () => {
	it("have a first that is the piece itself, and as many as they say", () => {
		expect(KINDS.map((r) => r.kind)).toEqual(REPEAT_KINDS);
		expect(KINDS.map(countOf)).toEqual([5, 12, 12, 7, 2]);
		for (const repeat of [null, ...KINDS]) {
			expect(copiesOf(repeat)[0]).toMatchObject({ copy: 0, right: 0, away: 0, turnDeg: 0, size: 1, mirrored: false });
			expect(copiesOf(repeat)).toHaveLength(countOf(repeat));
		}
	});
	it("go round a middle and face it, and end where they begin", () => {
		const ring = post(KINDS[2], { headingDeg: 30, position: [7, 0, -2] });
		const feet = copiesInWorld(ring);
		const middle = [7 + 3 * Math.sin(Math.PI / 6), -2 - 3 * Math.cos(Math.PI / 6)];
		for (const [i, { x, z, turnDeg }] of feet.entries()) {
			expect(Math.hypot(7 + x - middle[0], -2 + z - middle[1])).toBeCloseTo(3, 6);
			expect(turnDeg).toBeCloseTo(30 * i, 6);
			// What each has away of it is the middle.
			const heading = ((30 + turnDeg) * Math.PI) / 180;
			expect(7 + x + 3 * Math.sin(heading)).toBeCloseTo(middle[0], 6);
			expect(-2 + z - 3 * Math.cos(heading)).toBeCloseTo(middle[1], 6);
		}
		const arc = everyCopy({ kind: "ring", count: 4, centre: [0, 3], arcDeg: 90, turned: false });
		expect(arc.map((c) => c.turnDeg)).toEqual([0, 0, 0, 0]);
		expect([arc[3].right, arc[3].away]).toEqual([expect.closeTo(-3, 6), expect.closeTo(3, 6)]);
	});
	it("stand evenly along a line and turn with it, the first where the piece is", () => {
		const square = corners<[number, number]>([0, 0], [3, 0], [3, 3]);
		const all = everyCopy({ kind: "along", count: 7, points: square, turned: true });
		expect(all.map((c) => [c.right, c.away].map((v) => Math.round(v * 1e6) / 1e6 + 0))).toEqual([
			[0, 0],
			[1, 0],
			[2, 0],
			[3, 0],
			[3, 1],
			[3, 2],
			[3, 3],
		]);
		expect(all.map((c) => Math.round(c.turnDeg))).toEqual([0, 0, 0, 0, -90, -90, -90]);
		const bow = {
			kind: "along" as const,
			count: 50,
			points: corners<[number, number]>([0, 0], [4, 4], [9, 0]).map((p, i) => ({ ...p, soft: i === 1 })),
			turned: false,
		};
		const steps = everyCopy(bow).map((c, i, list) =>
			i ? Math.hypot(c.right - list[i - 1].right, c.away - list[i - 1].away) : 0,
		);
		expect(Math.max(...steps.slice(1)) / Math.min(...steps.slice(1))).toBeLessThan(1.02);
		const piece = post(bow, { headingDeg: 90 });
		const moved = moveLinePoint(piece, 2, 1, 0)?.repeat as typeof bow;
		// Turned to the east, a metre east is a metre away.
		expect(moved.points[2].at).toEqual([9, 1]);
		const more = insertLinePoint(piece, 0, 0, 0)?.repeat as typeof bow;
		expect(more.points[1]).toEqual({ n: 3, at: [2, 2], soft: true });
		const hard = turnLinePoint(piece, 1)?.repeat as typeof bow;
		expect(hard.points[1]).toEqual({ n: 1, at: [4, 4] });
		expect(Repeat.safeParse({ ...bow, points: corners<[number, number]>([1, 0], [4, 4]) }).error?.message).toMatch(
			/begins at its piece/,
		);
	});
	it("differ by chance as far as they are told, the same for the same seed", () => {
		const vary = { seed: 4, turnDeg: 20, size: 0.25, drop: 0.4 };
		const all = everyCopy({ kind: "row", count: 1000, step: [1, 0], vary });
		expect(everyCopy({ kind: "row", count: 1000, step: [1, 0], vary })).toEqual(all);
		expect(everyCopy({ kind: "row", count: 1000, step: [1, 0], vary: { ...vary, seed: 5 } })).not.toEqual(all);
		expect(Math.max(...all.map((c) => Math.abs(c.turnDeg)))).toBeLessThanOrEqual(20);
		expect(Math.max(...all.map((c) => c.size))).toBeGreaterThan(1.2);
		expect(Math.min(...all.map((c) => c.size))).toBeGreaterThanOrEqual(0.75);
		const left = copiesOf({ kind: "row", count: 1000, step: [1, 0], vary }).length;
		expect(Math.abs(left - 600)).toBeLessThan(60);
	});
	it("leave single ones out, move them, and take them back", () => {
		const [row] = KINDS;
		const without = withSingle(row, { copy: 2, out: true });
		expect(copiesOf(without).map((c) => c.copy)).toEqual([0, 1, 3, 4]);
		expect(everyCopy(without)).toHaveLength(5);
		const moved = withSingle(without, { copy: 2, by: [0.5, 0, -1] });
		expect(moved.singles).toEqual([{ copy: 2, out: true, by: [0.5, 0, -1] }]);
		expect(withSingle(withSingle(moved, { copy: 2, out: undefined }), { copy: 2, by: undefined })).toEqual(row);
	});
	it("are scaled with all their lengths", () => {
		fc.assert(
			fc.property(fc.constantFrom(...KINDS), fc.double({ min: 0.2, max: 5, noNaN: true }), (repeat, by) => {
				const one = withSingle(repeat, { copy: 1, by: [1, 2, 3] });
				const [plain, scaled] = [everyCopy(one), everyCopy(scaledRepeat(one, by))];
				for (const [i, c] of plain.entries()) {
					expect(scaled[i].right).toBeCloseTo(c.right * by, 6);
					expect(scaled[i].up).toBeCloseTo(c.up * by, 6);
					expect(scaled[i].away).toBeCloseTo(c.away * by, 6);
				}
			}),
		);
	});
	it("are moved by hands: one copy, or the middle of the ring", () => {
		const east = post(KINDS[0], { headingDeg: 90 });
		// Facing east, a metre to the south is one to its right.
		expect(moveCopy(east, 3, 0, 1)).toMatchObject({ repeat: { singles: [{ copy: 3, by: [1, 0, 0] }] } });
		expect(moveRingCentre(post(KINDS[2], { headingDeg: 90 }), 2, 0)).toMatchObject({ repeat: { centre: [0, 5] } });
		expect(moveCopy(newPiece("a", "box"), 0, 1, 1)).toBeNull();
	});
});

const cache = new PartCache();
const compiled = (pieces: Piece[]) => compile({ ...blankShot(), pieces }, STILL, NO_BLOBS, NO_MAKERS, cache);

/** Places of all of a scene's triangles in the world, sorted. */
function placesIn(pieces: Piece[]): string[] {
	const { root, parts } = compiled(pieces);
	return root.draws
		.filter((d) => parts.get(d.mesh)?.kind === "mesh" && d.id > 2)
		.flatMap(({ mesh, transform }) => {
			expect(determinant(transform)).toBeGreaterThan(0);
			const { positions, indices } = (parts.get(mesh) as unknown as { mesh: Mesh }).mesh;
			return [...indices].map((i) =>
				transformPoint(transform, [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]])
					.map((v) => (Math.round(v * 500) / 500 + 0).toFixed(3))
					.join(),
			);
		})
		.sort();
}

describe("copies set apart", () => {
	it.each(KINDS.map((r) => [r.kind, r] as const))("of a %s stand where they stood", (_, repeat) => {
		const vary = { seed: 2, turnDeg: 30, size: 0.2, drop: 0.2 };
		const piece = post({ ...repeat, vary } as Repeat, { headingDeg: 25, size: [0.5, 2, 1], position: [3, 0, -9] });
		const doc = { ...blankShot(), pieces: [piece] };
		let n = 0;
		const { document } = applyEdit(
			doc,
			setApart(piece, () => `new${n++}`),
		);
		expect(document.pieces).toHaveLength(copiesOf(piece.repeat).length);
		expect(document.pieces[0].id).toBe("post");
		expect(document.pieces.every((p) => p.repeat === null)).toBe(true);
		const [before, after] = [placesIn([piece]), placesIn(document.pieces)];
		expect(after.length).toBe(before.length);
		const far = before.filter((p, i) => p !== after[i]).length;
		expect(far / before.length).toBeLessThan(0.2);
	});
	it("as a mirror shows them have bodies of their own, looking outwards", () => {
		const piece = post({ kind: "facing", acrossM: 4 });
		const [own, other] = pieceTransforms(piece, blankShot());
		expect(determinant(own)).toBeGreaterThan(0);
		expect(determinant(other)).toBeLessThan(0);
		const { root } = compiled([piece]);
		expect(new Set(root.draws.slice(-2).map((d) => d.mesh)).size).toBe(2);
	});
	it("are refused in words where a field would hold too many", () => {
		const field = (columns: number, rows: number) => Repeat.safeParse({ kind: "field", columns, rows, step: [1, 1] });
		expect(field(40, 50).success).toBe(true);
		expect(field(41, 50).error?.issues[0].message).toBe("A field holds at most 2000 copies.");
	});
	it("parse as repeats of a document", () => {
		for (const repeat of KINDS) expect(Repeat.parse(repeat)).toEqual(repeat);
	});
});
