import { describe, expect, it } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { applyEdit, type Edit } from "../../core/doc/edits.ts";
import { plainLook } from "../../core/doc/look.ts";
import type { MatchLine, ShotDocument } from "../../core/doc/schema.ts";
import { frameOfView, project } from "../../core/lens/camera.ts";
import { MADE_UP_IMAGE, MadeUp } from "../../core/lens/madeUp.ts";
import { bent } from "../../core/maths/division.ts";
import {
	becameWorse,
	inPicture,
	type Matched,
	matchedCamera,
	matchImage,
	matchLoses,
	matchMoves,
	matchView,
	solveMatch,
} from "./match.ts";

const { width, height } = MADE_UP_IMAGE;
const truth = { ...new MadeUp(1).camera(), focalMm: 30, headingDeg: 35, pitchDeg: 2, rollDeg: 0.5 };

/** A blank shot with a reference and lines drawn over it. */
function drawn(noise = 0): ShotDocument {
	const made = new MadeUp(5);
	const lines: MatchLine[] = made.directions(["z", "x", "y"], truth, noise, 4).flatMap(({ axis, segments }) =>
		segments.map(([x1, y1, x2, y2], i) => ({
			id: `${axis}${i}`,
			axis: ({ z: "along", x: "across", y: "upright" } as const)[axis],
			x1,
			y1,
			x2,
			y2,
		})),
	);
	let doc = blankShot();
	const edits: Edit[] = [
		{
			name: "reference.add",
			reference: { id: "ref", name: "place", blob: "0".repeat(64), widthPx: width, heightPx: height },
		},
		{ name: "match.addLines", lines },
	];
	for (const e of edits) doc = applyEdit(doc, e).document;
	return doc;
}

const edit = (doc: ShotDocument, e: Edit): ShotDocument => applyEdit(doc, e).document;
const solved = (doc: ShotDocument): Matched => {
	const result = solveMatch(doc);
	if (!result.ok) throw new Error(result.message);
	return result;
};

describe("the match of a shot", () => {
	it("is empty, then not determined, then solved", () => {
		expect(solveMatch(blankShot())).toMatchObject({ ok: false, empty: true });
		const doc = drawn();
		const few = { ...doc, match: { ...doc.match, lines: doc.match.lines.slice(0, 2) } };
		expect(solveMatch(few)).toMatchObject({
			ok: false,
			empty: false,
			message: expect.stringMatching(/second direction/),
		});
		const s = solved(doc);
		expect(s.solution.focalMm).toBeCloseTo(30, 2);
		expect(s.residual.size).toBe(12);
		expect(s.wrong).toBeNull();
	});

	it("names the line that is wrong, and leaves out what is left out by hand", () => {
		const doc = drawn(0.3);
		const [first] = doc.match.lines;
		const bad = edit(doc, { name: "match.changeLine", line: { ...first, x1: first.x1 + 60, y1: first.y1 - 50 } });
		const s = solved(bad);
		expect(s.wrong).toBe(first.id);
		expect(s.solution.focalMm).toBeCloseTo(30, 0);
		const counted = solved(edit(bad, { name: "match.set", allCount: true }));
		expect(counted.without.get(first.id)).toBeCloseTo(s.solution.focalMm, 1);
		const left = solved(
			edit(bad, { name: "match.changeLine", line: { ...first, x1: first.x1 + 60, y1: first.y1 - 50, out: true } }),
		);
		expect(left.wrong).toBeNull();
		expect(left.residual.has(first.id)).toBe(false);
	});

	it("looks along along, whichever way its lines were drawn and the camera's heading lies", () => {
		for (const headingDeg of [-89, -35, -1, 0.5, 35, 89]) {
			const made = new MadeUp(7);
			const lines = made.directions(["z", "x", "y"], { ...truth, headingDeg }, 0, 3).flatMap(({ axis, segments }) =>
				segments.map(([x1, y1, x2, y2], i): MatchLine => {
					const id = `${axis}${i}`;
					const name = ({ z: "along", x: "across", y: "upright" } as const)[axis];
					// From far to near, and from near to far.
					return i % 2 ? { id, axis: name, x1, y1, x2, y2 } : { id, axis: name, x1: x2, y1: y2, x2: x1, y2: y1 };
				}),
			);
			let doc = edit(drawn(), { name: "match.removeLine", id: "z0" });
			doc = { ...doc, match: { ...doc.match, lines } };
			const s = solved(doc);
			expect(s.solution.headingDeg).toBeCloseTo(headingDeg, 1);
			// In the frame a thing farther away, more to the right, higher up is just that.
			const { frame } = matchView(doc, s);
			const foot: [number, number, number] = [0, 0, 0];
			const place = (right: number, up: number, away: number) =>
				project(frame, [foot[0] + right, foot[1] + up, foot[2] - away]);
			const h = (headingDeg * Math.PI) / 180;
			const [x, z] = [20 * Math.sin(h), 20 * Math.cos(h)];
			expect(place(x, 0, z + 1).depthM).toBeGreaterThan(place(x, 0, z).depthM);
			expect(place(x + 0.5, 0, z).x).toBeGreaterThan(place(x, 0, z).x);
			expect(place(x, 1, z).y).toBeLessThan(place(x, 0, z).y);
		}
	});

	it("looks the way that it was taken where pieces have been set under that", () => {
		const doc = drawn();
		const s = solved(doc);
		const turned = { ...doc, camera: { ...doc.camera, headingDeg: s.solution.headingDeg + 180 } };
		expect(matchedCamera(turned, s).headingDeg).toBeCloseTo(s.solution.headingDeg + 180, 6);
		expect(matchedCamera({ ...turned, pieces: [] }, s).headingDeg).toBeCloseTo(s.solution.headingDeg, 6);
	});

	it("names the pieces that it takes out of the frame", () => {
		const doc = drawn();
		const s = solved(doc);
		expect(matchLoses(doc, s)).toEqual(expect.arrayContaining(["Stake at 5 m"]));
		const seen = { ...doc, camera: { ...doc.camera, ...matchedCamera(doc, s) } };
		expect(matchLoses(seen, s)).toEqual([]);
	});

	it("tells which line has made it worse, and by how much", () => {
		const before = { doc: drawn(0.3), result: solveMatch(drawn(0.3)) };
		const [first] = before.doc.match.lines;
		const moved = (by: number, allCount = false) => {
			let doc = edit(before.doc, { name: "match.set", allCount });
			doc = edit(doc, { name: "match.changeLine", line: { ...first, x1: first.x1 + by, y1: first.y1 - by } });
			return becameWorse({ ...before, doc: before.doc }, { doc, result: solveMatch(doc) });
		};
		expect(moved(0.2)).toBeNull();
		expect(moved(60)).toMatch(/^Line 1, as it lies now, does not belong with the rest/);
		expect(moved(60, true)).toMatch(/^Line 1, as it lies now, makes the match worse: 0\.\d px before, \d+\.\d px now/);
		const removed = edit(before.doc, { name: "match.removeLine", id: first.id });
		expect(becameWorse(before, { doc: removed, result: solveMatch(removed) })).toBeNull();
	});

	it("stays with its picture: shown beside another, mirrored and turned back", () => {
		const doc = drawn();
		const other = edit(
			edit(doc, {
				name: "reference.add",
				reference: { id: "b", name: "b", blob: "1".repeat(64), widthPx: 50, heightPx: 90 },
			}),
			{
				name: "reference.show",
				reference: "b",
			},
		);
		expect(matchImage(other)).toEqual({ width, height });
		expect(solved(other).solution.focalMm).toBeCloseTo(30, 2);
		const mirrored = edit(doc, { name: "reference.setLook", id: "ref", look: { ...plainLook(), mirrored: true } });
		const s = solved(mirrored);
		expect(s.solution.focalMm).toBeCloseTo(30, 2);
		expect(s.solution.rollDeg).toBeCloseTo(-0.5, 2);
		const back = edit(mirrored, { name: "reference.setLook", id: "ref", look: plainLook() });
		back.match.lines.forEach((l, i) => expect(l.x1).toBeCloseTo(doc.match.lines[i].x1, 6));
		// A colour moves nothing.
		expect(edit(doc, { name: "reference.setLook", id: "ref", look: { ...plainLook(), warmth: 0.5 } }).match).toEqual(
			doc.match,
		);
	});

	it("is the same over its picture straightened: what was drawn along bent edges is straight there", () => {
		const R = Math.hypot(width, height) / 2;
		const own = drawn();
		const along = own.match.lines[0];
		const places = [0, 0.5, 1].map((t): [number, number] => {
			const [x, y] = bent(
				[along.x1 + t * (along.x2 - along.x1) - width / 2, along.y1 + t * (along.y2 - along.y1) - height / 2],
				-0.1,
				R,
			);
			return [x + width / 2, y + height / 2];
		});
		const doc = edit(own, { name: "match.putCurve", curve: { id: "c", points: places } });
		const straight = edit(doc, { name: "reference.setLook", id: "ref", look: { ...plainLook(), bend: -0.1 } });
		const [a, b, c] = straight.match.curves?.[0].points ?? [];
		const off = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
		expect(Math.abs(off) / Math.hypot(c[0] - a[0], c[1] - a[1])).toBeLessThan(1e-6);
		const back = edit(straight, { name: "reference.setLook", id: "ref", look: plainLook() });
		back.match.lines.forEach((l, i) => expect(l.x1).toBeCloseTo(doc.match.lines[i].x1, 6));
		// Turned and mirrored besides, and back.
		const all = edit(doc, {
			name: "reference.setLook",
			id: "ref",
			look: { ...plainLook(), bend: -0.1, turns: 1, mirrored: true },
		});
		const home = edit(all, { name: "reference.setLook", id: "ref", look: plainLook() });
		home.match.lines.forEach((l, i) => expect(l.y2).toBeCloseTo(doc.match.lines[i].y2, 6));
	});

	it("takes the eye height from known sizes, and tells what each comes to", () => {
		const made = new MadeUp(8);
		let doc = drawn();
		for (const id of ["h1", "h2"]) {
			const h = made.height(truth, 0);
			if (!h) throw new Error("no height");
			doc = edit(doc, {
				name: "match.putMeasure",
				measure: {
					id,
					kind: "height",
					x1: h.base[0],
					y1: h.base[1],
					x2: h.top[0],
					y2: h.top[1],
					metres: Number(h.heightM.toFixed(6)),
				},
			});
		}
		const s = solved(doc);
		expect(matchedCamera(doc, s).position[1]).toBeCloseTo(truth.eyeHeightM, 2);
		expect(s.measured.get("h1")).toBeCloseTo(doc.match.measures?.[0].metres ?? 0, 2);
		expect(matchView(doc, s).ground({ x: 0.5, y: 0.95 })).not.toBeNull();
		expect(matchView(doc, s).ground({ x: 0.5, y: 0.1 })).toBeNull();
	});

	it("says what it would move in the frame, and nothing when it is the camera's own", () => {
		const doc = drawn();
		const s = solved(doc);
		expect(matchMoves(doc, s, 900)?.px).toBeGreaterThan(50);
		const taken = edit(doc, {
			name: "camera.take",
			...matchedCamera(doc, s),
			film: { widthMm: 36, heightMm: 36 / s.ratio },
		});
		expect(matchMoves(taken, solved(taken), 900)).toBeNull();
	});

	it("takes a crop with its film shifted, so that the reference lies on the frame", () => {
		const crop = { ...truth, centre: [180, -90] as [number, number] };
		const made = new MadeUp(5);
		const axes = { z: "along", x: "across", y: "upright" } as const;
		const lines = made
			.directions(["z", "x", "y"], crop, 0, 4)
			.flatMap(({ axis, segments }) =>
				segments.map(([x1, y1, x2, y2], i) => ({ id: `${axis}${i}`, axis: axes[axis], x1, y1, x2, y2 })),
			);
		const doc = edit(edit(drawn(), { name: "match.addLines", lines: lines.map((l) => ({ ...l, id: `c${l.id}` })) }), {
			name: "match.set",
			centre: "solved",
		});
		const own = { ...doc, match: { ...doc.match, lines: doc.match.lines.filter((l) => l.id.startsWith("c")) } };
		const s = solved(own);
		const taken = edit(own, {
			name: "camera.take",
			...matchedCamera(own, s),
			film: { widthMm: 36, heightMm: 36 / s.ratio },
		});
		const view = frameOfView(taken.camera);
		const [right, up] = taken.camera.shiftMm ?? [0, 0];
		expect(right).toBeCloseTo((-180 / width) * 36, 2);
		expect(up).toBeCloseTo((90 / width) * 36, 2);
		// What was drawn along goes through its meeting point in the frame, too.
		s.axes.forEach((axis, i) => {
			const meeting = s.solution.meeting[i];
			if (!meeting) return;
			const far = ({ along: [0, 0, -1e7], across: [1e7, 0, 0], upright: [0, 1e7, 0] } as const)[axis];
			const sign = far[0] * view.forward[0] + far[1] * view.forward[1] + far[2] * view.forward[2] < 0 ? -1 : 1;
			const p = project(view, [far[0] * sign, far[1] * sign, far[2] * sign]);
			expect(p.x * width).toBeCloseTo(meeting.x, 0);
			expect(p.y * height).toBeCloseTo(meeting.y, 0);
		});
		expect(
			edit({ ...taken, camera: { ...taken.camera, locked: false } }, { name: "camera.place", shiftMm: [0, 0] }).camera,
		).not.toHaveProperty("shiftMm");
	});

	it("bends its overlays with the lens", () => {
		const doc = edit(drawn(), {
			name: "match.putCurve",
			curve: {
				id: "c",
				points: [
					[100, 80],
					[960, 52],
					[1820, 80],
				],
			},
		});
		const s = solved(doc);
		expect(s.solution.bend?.k).toBeLessThan(0);
		const [x, y] = inPicture(s, MADE_UP_IMAGE, 1800, 100);
		expect(Math.hypot(x - 960, y - 540)).toBeLessThan(Math.hypot(840, 440));
		expect(inPicture(solved(drawn()), MADE_UP_IMAGE, 1800, 100)).toEqual([1800, 100]);
	});
});
