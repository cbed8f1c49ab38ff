import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { usualMove } from "../doc/edits/move.ts";
import type { Move, ShotDocument } from "../doc/schema.ts";
import { frameOfView, rayThrough } from "../lens/camera.ts";
import { ID_GROUND, ID_SKY } from "../scene/ids.ts";
import { documentAt } from "../time/documentAt.ts";
import { timeOfFrame } from "../time/frames.ts";
import { mostStepPx, moveTable, type Probe, probePlaces } from "./moveTable.ts";

const even = (a: unknown, b: unknown) => [
	{ timeS: 0, value: a, leave: "even" as const },
	{ timeS: 4, value: b, leave: "even" as const },
];

const shot = (tracks: Move["tracks"]): ShotDocument => ({
	...blankShot(),
	pieces: [],
	move: { ...usualMove(), tracks },
});

/** What a frame shows of walls at a planar distance, or of sky where there is none. */
function probe(
	doc: ShotDocument,
	frame: number,
	depthM: (x: number, y: number) => number | null,
	id = ID_GROUND,
): Probe {
	const { across, down, places } = probePlaces(doc.camera.ratio);
	const view = frameOfView(documentAt(doc, timeOfFrame(frame, "24")).camera);
	const ids = new Uint32Array(across * down).fill(ID_SKY);
	const distancesM = new Float64Array(across * down).fill(Number.POSITIVE_INFINITY);
	for (let i = 0; i < ids.length; i++) {
		const [x, y] = [places[2 * i], places[2 * i + 1]];
		const depth = depthM(x, y);
		if (depth === null) continue;
		ids[i] = id;
		distancesM[i] = depth * Math.hypot(...rayThrough(view, x, y));
	}
	return { frame, across, down, ids, distancesM };
}

describe("the table of a move", () => {
	it("of a lens that slides by tells the parallax of optics: speed times focal length over distance", () => {
		const doc = shot([{ value: "camera.place", keys: even([0, 1.6, 0], [2, 1.6, 0]) }]);
		const left = (x: number) => (x < 0.33 ? 5 : x < 0.66 ? 50 : 600);
		const rows = moveTable(doc, [probe(doc, 10, left), probe(doc, 40, left)], 1920);
		const px = (depth: number) => ((0.5 * 32) / 36 / depth) * 1920;
		for (const [what, depth] of [
			["near", 5],
			["middle", 50],
			["far", 600],
		] as const) {
			const row = rows.find((r) => r.what === what);
			expect(row?.pxPerS).toBeCloseTo(px(depth), 1);
			expect(row?.acrossPx).toBeCloseTo((px(depth) * 95) / 24, 0);
		}
		expect(rows.find((r) => r.what === "fastest")).toMatchObject({ strobes: false });
	});
	it("says when the fastest place will strobe, and that an open shutter helps", () => {
		const doc = shot([
			{
				value: "camera.direction",
				keys: even({ headingDeg: 0, pitchDeg: 0, rollDeg: 0 }, { headingDeg: 90, pitchDeg: 0, rollDeg: 0 }),
			},
		]);
		const rows = (shutter: number) => {
			const own = { ...doc, move: { ...(doc.move as Move), shutter } };
			return moveTable(own, [probe(own, 20, () => 40)], 1920).find((r) => r.what === "fastest");
		};
		// A quarter turn in four seconds through 32 mm goes a frame's width in some three seconds.
		expect(rows(0.5)).toMatchObject({ frame: 20, strobes: true });
		expect(mostStepPx(1920, 0.5)).toBeCloseTo(11.4, 1);
		expect(mostStepPx(1920, 0.9)).toBeGreaterThan(4 * mostStepPx(1920, 0.5));
	});
	it("counts a piece's own way, and names it", () => {
		const doc = {
			...shot([{ value: "piece.place", of: "cart", keys: even([0, 0, -10], [8, 0, -10]) }]),
			pieces: [newPiece("cart", "box", { name: "Cart", position: [0, 0, -10], size: [4, 4, 4] })],
		};
		const row = moveTable(doc, [probe(doc, 12, () => 10, 3)], 1920).find((r) => r.what === "fastest");
		expect(row?.name).toBe("Cart");
		expect(row?.pxPerS).toBeCloseTo(((2 * 32) / 36 / 10) * 1920, 0);
	});
	it("finds the frames that see past the end of the ground", () => {
		const doc = shot([{ value: "camera.place", keys: even([0, 1.6, 0], [0, 6, 0]) }]);
		// From frame 48 on a strip below the horizon is sky.
		const strip = (from: number) => (_x: number, y: number) =>
			y > 0.55 && y < 0.55 + from ? null : y > 0.5 ? 20 : null;
		const rows = moveTable(
			doc,
			[probe(doc, 0, strip(0)), probe(doc, 48, strip(0.1)), probe(doc, 90, strip(0.2))],
			1920,
		);
		const hole = rows.find((r) => r.what === "hole");
		expect(hole).toMatchObject({ frame: 90, frames: 2 });
		expect(hole?.percent).toBeCloseTo(20, -0.7);
		expect(moveTable(doc, [probe(doc, 0, strip(0))], 1920).some((r) => r.what === "hole")).toBe(false);
	});
	it("finds the frames that see past the edge of a sky picture that is a strip", () => {
		const doc = shot([
			{
				value: "camera.direction",
				keys: even({ headingDeg: 0, pitchDeg: 0, rollDeg: 0 }, { headingDeg: 0, pitchDeg: 40, rollDeg: 0 }),
			},
		]);
		const picture = {
			...{ file: "0".repeat(64), name: "Strip", widthPx: 4096, heightPx: 1024, turnDeg: 0 },
			...{ lux: 50_000, saturation: 1, sun: false },
		};
		const under = { ...doc, air: { ...doc.air, picture } };
		const sky = (d: typeof doc) => [0, 80, 90].map((frame) => probe(d, frame, () => null));
		const row = moveTable(under, sky(under), 1920).find((r) => r.what === "sky");
		// It shows 45 degrees: the level frame lies below that, the last one mostly above.
		expect(row).toMatchObject({ frame: 90, frames: 2 });
		expect(row?.percent).toBeGreaterThan(15);
		expect(row?.percent).toBeLessThan(30);
		const whole = { ...doc, air: { ...doc.air, picture: { ...picture, heightPx: 2048 } } };
		expect(moveTable(whole, sky(whole), 1920).some((r) => r.what === "sky")).toBe(false);
	});
	it("tells the focus at both ends, and the nearest that is sharp where that is farthest", () => {
		const doc = shot([
			{ value: "camera.focus", keys: even({ focusM: 3, focusOn: null }, { focusM: 30, focusOn: null }) },
		]);
		const row = moveTable(doc, [probe(doc, 0, () => 5), probe(doc, 95, () => 5)], 1920).find((r) => r.what === "focus");
		expect(row?.frame).toBe(95);
		expect(row?.focusM?.[0]).toBeCloseTo(3, 1);
		expect(row?.focusM?.[1]).toBeCloseTo(29.3, 0);
		expect(moveTable({ ...doc, move: null }, [], 1920)).toEqual([]);
	});
});
