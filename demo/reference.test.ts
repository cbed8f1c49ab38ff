import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { blankShot } from "../src/core/doc/defaults.ts";
import { applyEdit, applyPatches, parseEdit } from "../src/core/doc/edits.ts";
import { ShotDocument } from "../src/core/doc/schema.ts";
import { solvePerspective } from "../src/core/lens/solvePerspective.ts";
import { compile } from "../src/core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../src/core/scene/inputs.ts";
import { PartCache } from "../src/core/scene/partCache.ts";
import { parted, smallSign, unpackSmall } from "../src/core/study/smallFrame.ts";
import { momentOfFrame } from "../src/core/time/frames.ts";
import { sheetsAtOnce } from "../src/makers/sheets/atOnce.ts";
import { dryDockEdits } from "./dryDock.ts";
import { paint } from "./paint.ts";
import { REFERENCE_SIZE, REFERENCE_TRUTH, referenceDocument, referenceLines } from "./reference.ts";
import { saltWorksDocument, saltWorksEdits } from "./saltWorks.ts";
import { slateInclineEdits } from "./slateIncline.ts";

const AXIS = { along: "z", across: "x", upright: "y" } as const;

describe("the demo", () => {
	it("is a valid shot made by edits alone", () => {
		const doc = saltWorksDocument();
		expect(ShotDocument.parse(doc)).toEqual(doc);
		expect(doc.pieces.length).toBeGreaterThan(80);
	});
	it("ships with the small frames of its move, traced from what it is now (made again by npm run pictures -- move)", () => {
		const doc = saltWorksDocument();
		const move = doc.move as NonNullable<typeof doc.move>;
		const kept = [...parted(readFileSync(new URL("assets/move.frames", import.meta.url)))].map(unpackSmall);
		expect(kept.map((k) => k.frame)).toEqual(Array.from({ length: move.frames }, (_, i) => i));
		const cache = new PartCache();
		const makers = { ...NO_MAKERS, sheet: sheetsAtOnce(16) };
		for (const frame of [0, 31, move.frames - 1]) {
			const scene = compile(doc, momentOfFrame(frame, move), NO_BLOBS, makers, cache);
			expect(kept[frame].sign, `frame ${frame}`).toBe(smallSign(scene));
			const { rgb, width, height } = kept[frame];
			expect([width, height]).toEqual([192, 104]);
			const mean = rgb[1].reduce((a, b) => a + b, 0) / rgb[1].length;
			expect(mean).toBeGreaterThan(100);
		}
	});
	it("has a reference whose edges lie in its frame and determine its lens", () => {
		expect(ShotDocument.parse(referenceDocument()).camera.locked).toBe(true);
		const lines = referenceLines();
		for (const l of lines) {
			for (const x of [l.x1, l.x2]) expect(x > 0 && x < REFERENCE_SIZE.width).toBe(true);
			for (const y of [l.y1, l.y2]) expect(y > 0 && y < REFERENCE_SIZE.height).toBe(true);
		}
		const directions = (["along", "across", "upright"] as const).map((axis) => ({
			axis: AXIS[axis],
			segments: lines
				.filter((l) => l.axis === axis)
				.map((l) => [Math.round(l.x1), Math.round(l.y1), Math.round(l.x2), Math.round(l.y2)] as const),
		}));
		const s = solvePerspective({ image: REFERENCE_SIZE, film: { widthMm: 36 }, directions });
		expect(Math.abs(s.focalMm - REFERENCE_TRUTH.focalMm)).toBeLessThan(2 * s.focalMmSd);
		expect(Math.abs(s.focalMm / REFERENCE_TRUTH.focalMm - 1)).toBeLessThan(0.05);
		expect(Math.abs(s.headingDeg - REFERENCE_TRUTH.headingDeg)).toBeLessThan(1.5);
		expect(Math.abs(s.pitchDeg - REFERENCE_TRUTH.pitchDeg)).toBeLessThan(0.4);
	});
});

describe("the script of the demo", () => {
	it.each([
		["salt works", saltWorksEdits],
		["dry dock", dryDockEdits],
		["slate incline", slateInclineEdits],
	])("is undone step by step to the blank shot: %s", (_, edits) => {
		const start = blankShot();
		let doc = start;
		const back = [];
		for (const edit of edits()) {
			const step = applyEdit(doc, parseEdit(JSON.parse(JSON.stringify(edit))));
			back.push(step.inverse);
			doc = step.document;
		}
		for (const inverse of back.reverse()) doc = applyPatches(doc, inverse);
		expect(doc).toEqual(start);
	});
	it("paints its reference in flat strokes that keep edges", () => {
		const size = 32;
		const pixels = new Uint8ClampedArray(size * size * 4);
		for (let i = 0; i < size * size; i++)
			pixels.fill((i % size < 16 ? 40 : 200) + ((i * 37) % 21) - 10, i * 4, i * 4 + 3);
		const out = paint(pixels, size, size, 3);
		for (let y = 4; y < 28; y++) {
			expect(Math.abs(out[(y * size + 12) * 4] - 40)).toBeLessThan(8);
			expect(Math.abs(out[(y * size + 20) * 4] - 200)).toBeLessThan(8);
		}
	});
});
