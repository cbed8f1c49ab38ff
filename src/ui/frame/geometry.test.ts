import { describe, expect, it } from "vitest";
import { REFERENCE_SIZE, REFERENCE_TRUTH, referenceLines } from "../../../demo/reference.ts";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import { newCover } from "../../core/dress/plant.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { groundUnder, levelUnder } from "../../core/ground/underPoint.ts";
import { frameOfView, project } from "../../core/lens/camera.ts";
import { clock, metres, shareWords } from "../parts/words.ts";
import { matchedCamera, matchView, solveMatch } from "../reference/match.ts";
import { coverReach, keptInFrame, shownView } from "./geometry.ts";

const doc = { ...blankShot(), ground: { preset: "plain" as const, seed: 3, heightM: 2 } };
const view = frameOfView({ ...doc.camera, pitchDeg: -4 });

describe("places under the pointer", () => {
	it("lie on the ground and project back to where they were pointed at", () => {
		for (const at of [
			{ x: 0.2, y: 0.8 },
			{ x: 0.7, y: 0.95 },
			{ x: 0.5, y: 0.6 },
		]) {
			const p = groundUnder(view, doc.ground, at);
			if (!p) throw new Error("no ground");
			expect(Math.abs(p[1] - groundHeight(doc.ground, p[0], p[2]))).toBeLessThan(0.01);
			const q = project(view, p);
			expect(Math.abs(q.x - at.x)).toBeLessThan(0.003);
			expect(Math.abs(q.y - at.y)).toBeLessThan(0.003);
		}
	});
	it("are none above the horizon", () => {
		expect(groundUnder(view, doc.ground, { x: 0.5, y: 0.05 })).toBeNull();
		expect(levelUnder(view, 0, { x: 0.5, y: 0.02 })).toBeNull();
	});
});

describe("pieces in the frame", () => {
	it("have the box, the distance and the share that their size says", () => {
		const wall = newPiece("w", "box", { position: [0, 0, -20], stands: "level", size: [4, 3, 0.01] });
		const b = keptInFrame(wall, doc, frameOfView(doc.camera));
		expect(b?.nearM).toBeCloseTo(20, 1);
		const tan = frameOfView(doc.camera).tanX;
		expect((b?.box.x1 ?? 0) - (b?.box.x0 ?? 0)).toBeCloseTo(4 / (2 * tan * 20), 3);
		expect(keptInFrame({ ...wall, position: [0, 0, 20] }, doc, frameOfView(doc.camera))).toBeNull();
	});
	it("are seen from a free view without moving the camera", () => {
		const free = { position: [3, 2, 1] as [number, number, number], headingDeg: 80, pitchDeg: 0 };
		expect(shownView(doc.camera, doc.finish, free).position).toEqual([3, 2, 1]);
		expect(shownView(doc.camera, doc.finish, free).tanX).toBe(frameOfView(doc.camera).tanX);
		expect(shownView(doc.camera, doc.finish, null).position).toEqual(doc.camera.position);
	});
});

describe("words for measures", () => {
	it("are short", () => {
		expect([metres(0.5), metres(12.34), metres(345.6), metres(2300), metres(15_000)]).toEqual([
			"0.50 m",
			"12.3 m",
			"346 m",
			"2.3 km",
			"15 km",
		]);
		expect([clock(0.2), clock(42), clock(600), clock(9000)]).toEqual(["1 s", "42 s", "10 min", "2.5 h"]);
		expect([null, 0, 0.02, 12.34].map(shareWords)).toEqual(["not counted yet", "hidden", "below 0.1 %", "12.3 %"]);
		expect(coverReach(newCover("c", "shrub")).farM).toBe(90);
	});
});

describe("the match of a shot", () => {
	const reference = {
		id: "r",
		name: "r",
		blob: "0".repeat(64),
		widthPx: REFERENCE_SIZE.width,
		heightPx: REFERENCE_SIZE.height,
	};
	const matched = {
		...blankShot(),
		references: [reference],
		shown: { reference: "r", mode: "over" as const, opacity: 1 },
		match: {
			lines: referenceLines().map((l, i) => ({ id: `l${i}`, ...l })),
			focalGivenMm: null,
			eyeHeightM: REFERENCE_TRUTH.eyeHeightM,
		},
	};
	it("finds the camera of the reference and stands on its ground", () => {
		const result = solveMatch(matched);
		if (!result.ok) throw new Error(result.message);
		const camera = matchedCamera(matched, result);
		expect(camera.focalMm).toBeCloseTo(REFERENCE_TRUTH.focalMm, 2);
		expect(camera.headingDeg).toBeCloseTo(REFERENCE_TRUTH.headingDeg, 2);
		expect(camera.position[1]).toBe(REFERENCE_TRUTH.eyeHeightM);
		expect(result.residual.size).toBe(8);
		const v = matchView(matched, result);
		const at = v.ground({ x: 0.8, y: 0.9 });
		if (!at) throw new Error("no ground");
		const back = project(v.frame, [at[0], 0, at[1]]);
		expect(back.x).toBeCloseTo(0.8, 6);
		expect(back.y).toBeCloseTo(0.9, 6);
	});
	it("says in words what is missing", () => {
		expect(solveMatch(blankShot())).toMatchObject({ ok: false, empty: true });
		const one = solveMatch({ ...matched, match: { ...matched.match, lines: matched.match.lines.slice(0, 2) } });
		expect(one).toMatchObject({ ok: false, empty: false });
		const given = solveMatch({
			...matched,
			match: { ...matched.match, lines: matched.match.lines.slice(0, 2), focalGivenMm: REFERENCE_TRUTH.focalMm },
		});
		expect(given.ok).toBe(true);
	});
});
