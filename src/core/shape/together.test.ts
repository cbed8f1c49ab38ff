import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { applyEdit, applyPatches, type Edit } from "../doc/edits.ts";
import { groupOfAll, groupsAbout, piecesIn, sharers, takenAs } from "../doc/groups.ts";
import type { Piece, ShotDocument } from "../doc/schema.ts";
import { anglesOf, cameraAxes } from "../maths/axes.ts";
import { normalize, sub, transformPoint, type Vec3 } from "../maths/vec.ts";
import { drawnPiece } from "./handPieces.ts";
import { pieceTransforms } from "./place.ts";
import { groupPieces, leanTogether, middleOfFeet, onceMore, pivotOf, scaleTogether, turnTogether } from "./together.ts";

const post = newPiece("post", "tube", { position: [2, 0, -10], size: [0.4, 3, 0.4], headingDeg: 20 });
const beam = newPiece("beam", "box", { position: [3, 2.8, -10], size: [3, 0.3, 0.3], headingDeg: 70, pitchDeg: 12 });
const hook = newPiece("hook", "box", { position: [3, 1, -11], size: [0.1, 0.4, 0.1], stands: { on: "beam" } });
const shed = newPiece("shed", "box", { position: [-8, 0, -20], size: [4, 3, 5] });

const shot = (pieces: Piece[] = [post, beam, shed]): ShotDocument => ({ ...blankShot(), pieces });
const apply = (doc: ShotDocument, ...edits: Edit[]): ShotDocument =>
	edits.reduce((d, edit) => applyEdit(d, edit).document, doc);
const of = (doc: ShotDocument, ...ids: string[]) => doc.pieces.filter((p) => ids.includes(p.id));
const crane = () => apply(shot(), groupPieces([post, beam], shot(), null, "crane"));

const near = (a: readonly number[], b: readonly number[], digits = 9) => {
	for (const [i, v] of a.entries()) expect(v).toBeCloseTo(b[i], digits);
};
const corners: Vec3[] = [-0.5, 0.5].flatMap((x) => [0, 1].flatMap((y) => [-0.5, 0.5].map((z): Vec3 => [x, y, z])));
const placesOf = (doc: ShotDocument, ids: string[]) =>
	of(doc, ...ids).flatMap((p) => pieceTransforms(p, doc).flatMap((m) => corners.map((c) => transformPoint(m, c))));
const distances = (all: Vec3[]) => all.flatMap((a, i) => all.slice(i + 1).map((b) => Math.hypot(...sub(a, b))));

describe("a group", () => {
	it("is named, holds its pieces, and is gone with the last of them", () => {
		const doc = crane();
		expect(doc.groups).toEqual([{ id: "crane", name: "Group 1" }]);
		expect(piecesIn(doc, "crane").map((p) => p.id)).toEqual(["post", "beam"]);
		expect(groupOfAll(of(doc, "post", "beam"), doc)?.id).toBe("crane");
		expect(groupOfAll(of(doc, "post"), doc)).toBeNull();
		expect(apply(doc, { name: "piece.remove", ids: ["post", "beam"] }).groups).toEqual([]);
	});
	it("is taken as one from outside, and piece by piece by who has entered it", () => {
		const yard = apply(crane(), groupPieces(crane().pieces, crane(), null, "yard"));
		expect(yard.groups).toEqual([
			{ id: "crane", name: "Group 1", group: "yard" },
			{ id: "yard", name: "Group 2" },
		]);
		const [first, , last] = yard.pieces;
		expect(takenAs(first, null, yard.groups)?.id).toBe("yard");
		expect(takenAs(first, "yard", yard.groups)?.id).toBe("crane");
		expect(takenAs(first, "crane", yard.groups)).toBeNull();
		expect(takenAs(last, "yard", yard.groups)).toBeNull();
		expect(groupsAbout(first, yard.groups).map((g) => g.id)).toEqual(["crane", "yard"]);
		const parted = apply(yard, { name: "group.part", id: "crane" });
		expect(parted.pieces.map((p) => p.group)).toEqual(["yard", "yard", "yard"]);
		expect(() => apply(yard, { name: "group.put", pieces: [], groups: ["yard"], into: "crane" })).toThrow(/itself/);
	});
	it("that goes round in a document from outside ends there", () => {
		const groups = [
			{ id: "a", name: "A", group: "b" },
			{ id: "b", name: "B", group: "a" },
		];
		expect(groupsAbout({ group: "a" }, groups).length).toBeLessThan(40);
	});
	it("turned about its pivot and back is as it was, to the last bit but rounding", () => {
		const doc = apply(crane(), { name: "group.setPivot", id: "crane", pivot: [7, 0, 3] });
		const both = of(doc, "post", "beam");
		expect(pivotOf(both, doc)).toEqual([7, 0, 3]);
		const there = apply(doc, turnTogether(both, 37, [7, 0, 3]));
		expect(there.groups?.[0].pivot?.map((v) => Math.round(v * 1e6))).toEqual([7e6, 0, 3e6]);
		const back = apply(there, turnTogether(of(there, "post", "beam"), -37, [7, 0, 3]));
		for (const [i, p] of back.pieces.entries()) near(p.position, doc.pieces[i].position, 10);
		near(
			back.pieces.map((p) => p.headingDeg),
			doc.pieces.map((p) => p.headingDeg),
		);
		near(distances(placesOf(there, ["post", "beam"])), distances(placesOf(doc, ["post", "beam"])), 6);
	});
	it("takes its pivot along, and leaves it when only a part of it moves", () => {
		const doc = apply(crane(), { name: "group.setPivot", id: "crane", pivot: [2, 0, -9] });
		const by = (ids: string[]) => ({
			name: "piece.move" as const,
			pieces: of(doc, ...ids).map((p) => ({
				id: p.id,
				position: [p.position[0] + 5, p.position[1], p.position[2] - 2] as [number, number, number],
			})),
		});
		near(apply(doc, by(["post", "beam"])).groups?.[0].pivot ?? [], [7, 0, -11]);
		near(apply(doc, by(["post"])).groups?.[0].pivot ?? [], [2, 0, -9]);
		const larger = apply(doc, scaleTogether(of(doc, "post", "beam"), 2, [2, 0, -9]));
		near(larger.groups?.[0].pivot ?? [], [2, 0, -9]);
	});
	it("is leaned as one body: all distances in it stay", () => {
		const doc = crane();
		const towards = normalize([0.4, 0.8, -0.3]);
		const leaned = apply(doc, leanTogether(of(doc, "post", "beam"), [2, 0, -10], towards, doc));
		near(distances(placesOf(leaned, ["post", "beam"])), distances(placesOf(doc, ["post", "beam"])), 6);
		const [foot] = of(leaned, "post");
		near(foot.position, [2, 0, -10]);
		near(cameraAxes(foot.headingDeg, foot.pitchDeg, foot.rollDeg).up, towards);
		// Upside down, and upright again.
		const over = apply(doc, leanTogether(of(doc, "post", "beam"), [2, 0, -10], [0, -1, 0], doc));
		near(cameraAxes(over.pieces[0].headingDeg, over.pieces[0].pitchDeg, over.pieces[0].rollDeg).up, [0, -1, 0]);
	});
	it("is made larger with all its lengths", () => {
		const doc = crane();
		const twice = apply(doc, scaleTogether(of(doc, "post", "beam"), 2, [2, 0, -10]));
		const [a, b] = [doc, twice].map((d) => distances(placesOf(d, ["post", "beam"])));
		near(
			b,
			a.map((v) => 2 * v),
			6,
		);
		expect(twice.pieces[0].shape).toMatchObject({ wallM: 2 * (doc.pieces[0].shape as { wallM: number }).wallM });
	});
	it("is set there once more with its groups, its pivots and what stands on what", () => {
		const nested = apply(
			shot([post, beam, hook, shed]),
			groupPieces([beam, hook], shot(), null, "arm"),
			{ name: "group.make", group: { id: "crane", name: "Crane" }, pieces: ["post"], groups: ["arm"] },
			{ name: "group.setPivot", id: "crane", pivot: [2, 0, -10] },
		);
		let n = 0;
		const edit = onceMore(of(nested, "post", "beam", "hook"), nested, true, () => `new-${n++}`);
		const doc = apply(nested, edit);
		const copies = doc.pieces.slice(4);
		expect(copies.map((p) => p.name)).toEqual(["tube", "box", "box"]);
		expect(copies[2].stands).toEqual({ on: copies[1].id });
		const [arm, whole] = edit.groups ?? [];
		expect([arm.group, whole.group]).toEqual([whole.id, undefined]);
		expect(copies.map((p) => p.group)).toEqual([whole.id, arm.id, arm.id]);
		const aside = copies[0].position[0] - post.position[0];
		near(whole.pivot ?? [], [2 + aside, 0, -10]);
		expect(sharers(doc.pieces[0], doc.pieces).map((p) => p.id)).toEqual(["post", copies[0].id]);
	});
});

describe("pieces that share a shape", () => {
	const rail = drawnPiece(
		"rail",
		"tube",
		{ foot: [0, 0, -9], stands: "ground", right: [1, 0, 0], acrossM: 1, upM: 2 },
		[],
	);
	const like = (id: string) => ({ ...rail.pieces[0], id, shared: "rail" });
	const doc = apply(blankShot(), rail, { name: "piece.add", pieces: [like("second"), like("third")] });
	const three = (d: ShotDocument) => of(d, "rail", "second", "third");

	it("change together in shape, measures, surface and size, and are undone together", () => {
		const before = three(doc).map((p) => p.size[1]);
		const edits: Edit[] = [
			{ name: "piece.setMeasures", ids: ["second"], measures: { wallM: 0.02 } },
			{ name: "piece.setSurface", ids: ["rail"], surface: { colour: [0.1, 0.2, 0.3] } },
			{ name: "piece.size", pieces: [{ id: "third", size: [1, 3, 1] }] },
		];
		const after = apply(doc, ...edits);
		for (const p of three(after)) {
			expect(p.shape).toMatchObject({ wallM: 0.02 });
			expect(p.surface.colour).toEqual([0.1, 0.2, 0.3]);
			expect(p.size).toEqual([1, 3, 1]);
		}
		expect(before).toEqual([2, 2, 2]);
		const { document, inverse } = applyEdit(doc, edits[2]);
		expect(applyPatches(document, inverse)).toEqual(doc);
	});
	it("differ in size where one was made larger, and keep that in proportion", () => {
		const box = apply(doc, { name: "piece.setShape", ids: ["rail"], shape: { kind: "wedge" } as Piece["shape"] });
		const [, second] = three(box);
		const larger = apply(box, scaleTogether([second], 3, second.position));
		expect(three(larger).map((p) => p.shared)).toEqual(["rail", "rail", "rail"]);
		const taller = apply(larger, { name: "piece.size", pieces: [{ id: "rail", size: [1, 4, 1] }] });
		expect(three(taller).map((p) => p.size[1])).toEqual([4, 12, 4]);
	});
	it("keep their pictures when they are set apart, and go on by themselves", () => {
		const apart = apply(doc, { name: "piece.setShared", ids: ["rail"], of: null });
		expect(three(apart).map(({ shared: _, ...p }) => p)).toEqual(three(doc).map(({ shared: _, ...p }) => p));
		const changed = apply(apart, { name: "piece.setShape", ids: ["rail"], shape: { kind: "box" } as Piece["shape"] });
		expect(three(changed).map((p) => p.shape.kind)).toEqual(["box", "tube", "tube"]);
	});
	it("are apart once lengths in metres differ", () => {
		const [, second] = three(doc);
		const larger = apply(doc, scaleTogether([second], 3, second.position));
		expect(three(larger).map((p) => p.shared)).toEqual(["rail", undefined, "rail"]);
	});
	it("may come to it later, by the shape of one of them", () => {
		const both = apply(shot(), { name: "piece.setShared", ids: ["beam", "shed"], of: "post" });
		expect(both.pieces.map((p) => p.shape.kind)).toEqual(["tube", "tube", "tube"]);
		expect(new Set(both.pieces.map((p) => p.shared))).toEqual(new Set(["post"]));
		expect(both.pieces.map((p) => p.size)).toEqual([post.size, beam.size, shed.size]);
	});
});

describe("angles", () => {
	it("are those that the axes were made from", () => {
		for (const [h, p, r] of [
			[0, 0, 0],
			[30, 20, -50],
			[200, -70, 140],
			[-10, 89, 3],
		]) {
			const axes = cameraAxes(h, p, r);
			const { headingDeg, pitchDeg, rollDeg } = anglesOf(axes);
			const back = cameraAxes(headingDeg, pitchDeg, rollDeg);
			near(back.right, axes.right);
			near(back.up, axes.up);
			near(back.forward, axes.forward);
		}
		near(
			cameraAxes(...(Object.values(anglesOf(cameraAxes(40, 90, 0))) as [number, number, number])).right,
			cameraAxes(40, 90, 0).right,
		);
		expect(middleOfFeet([post, beam])[0]).toBe(2.5);
	});
});
