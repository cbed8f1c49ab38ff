import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import type { ShotDocument, SkyPicture } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { CLEAR_M, roomToMove, roomWords, WAYS, type Way } from "./roomToMove.ts";

const film = { widthMm: 36, heightMm: 24 };
/** A lens of 36 mm, which sees a metre to each side at two metres, over a plain, without pieces. */
function shot(over: Partial<ShotDocument> = {}, camera: Partial<ShotDocument["camera"]> = {}): ShotDocument {
	const doc = blankShot();
	const ground = { ...doc.ground, preset: "plain" as const, heightM: 0 };
	const at = groundHeight(ground, 0, 0);
	return {
		...doc,
		ground,
		pieces: [],
		water: { ...doc.water, on: false },
		camera: {
			...doc.camera,
			...{ film, ratio: 1.5, focalMm: 36, position: [0, at + 2, 0], headingDeg: 0, pitchDeg: 0, rollDeg: 0 },
			...camera,
		},
		...over,
	};
}
const found = (doc: ShotDocument, way: Way) => roomToMove(doc).find((r) => r.way === way);

describe("room to move", () => {
	it("ends where the end of flat ground is a pixel below the horizon, or is hidden by fog", () => {
		const doc = shot();
		expect(found(doc, "higher")?.what).not.toBe("the end of the ground shows");
		doc.ground = { ...doc.ground, planetKm: null };
		const room = found(doc, "higher");
		// A pixel of 1,920 at a half angle whose tangent is a half is 1/1920; the ground goes on for 60 km.
		const ground = groundHeight(doc.ground, 0, 0);
		expect((room?.by ?? 0) + doc.camera.position[1] - ground).toBeCloseTo(60_000 / doc.print.widthPx, 1);
		expect(room?.what).toBe("the end of the ground shows");
		expect(room?.cure).toContain("60 km");
		const foggy = { ...doc, air: { ...doc.air, fog: { ...doc.air.fog, on: true, visibilityM: 20_000 } } };
		expect(found(foggy, "higher")).toBeUndefined();
		expect(found({ ...doc, water: { ...doc.water, on: true, levelM: -50 } }, "higher")).toBeUndefined();
	});

	it("is told of what is shown anew, and not of what shows already", () => {
		const doc = shot({}, { position: [0, 400, 0] });
		doc.ground = { ...doc.ground, planetKm: null };
		expect(found(doc, "higher")).toBeUndefined();
		// And it does not hide what gives out anew.
		const post = newPiece("post", "box", { name: "Post", stands: "level", position: [0, 390, -3.5], size: [1, 30, 1] });
		expect(found({ ...doc, pieces: [post] }, "nearer")?.what).toBe("the lens enters Post");
		// Without ground one sees that at once, wherever one goes.
		expect(roomToMove(shot({ ground: { ...shot().ground, out: true } })).map((r) => r.what)).not.toContain(
			"one sees that there is no ground",
		);
	});

	it("ends where the end of a wall that fills the frame comes into it", () => {
		// At 10 m the frame is 10 m wide: a wall of 16 m goes on for 3 m on each side.
		const wall = newPiece("wall", "box", {
			name: "Back wall",
			stands: "level",
			position: [0, -20, -10.05],
			size: [16, 60, 0.1],
		});
		const doc = shot({ pieces: [wall] });
		const right = found(doc, "to the right");
		expect(right?.by).toBeCloseTo(3, 1);
		expect(right?.what).toBe("the right end of Back wall shows");
		expect(found(doc, "to the left")?.by).toBeCloseTo(3, 1);
		expect(found(doc, "to the left")?.cure).toBe("let Back wall go on to the left");
		// Wider: 16 m at 10 m are 22.5 mm of 36. Farther back: 16 m wide at 16 m.
		expect(found(doc, "wider")?.by).toBeCloseTo(22.5, 0);
		expect(found(doc, "farther back")?.by).toBeCloseTo(6, 1);
		// Tilted until the wall leaves the frame by its lower edge, no end of it has shown.
		const low = { ...wall, size: [400, 25, 0.1] as [number, number, number] };
		expect(found(shot({ pieces: [low] }), "tilted up")).toBeUndefined();
		// Turned until an edge of the frame looks past it: atan(8 / 10) less the half angle.
		const turn = (Math.atan(0.8) - Math.atan(0.5)) * (180 / Math.PI);
		expect(found(doc, "turned left")?.by).toBeCloseTo(turn, 0);
	});

	it("ends where a sky picture that is a strip has its upper edge", () => {
		const picture: SkyPicture = {
			...{ file: "0".repeat(64), name: "Strip", widthPx: 8192, heightPx: 2048, turnDeg: 0 },
			...{ lux: 50_000, saturation: 1, sun: false },
		};
		const doc = shot({ air: { ...blankShot().air, picture } });
		doc.print = { ...doc.print, widthPx: 640 };
		// It shows 45 degrees; the frame's upper edge looks up by the angle whose tangent is a third.
		expect(found(doc, "tilted up")?.by).toBeCloseTo(45 - Math.atan(1 / 3) * (180 / Math.PI), 2);
		expect(found(doc, "tilted up")?.what).toBe("the sky picture ends");
		expect(found(doc, "tilted up")?.cure).toContain("45°");
		// Wider until half of the film's height is as long as the lens.
		expect(found(doc, "wider")?.by).toBeCloseTo(12, 1);
		const all = { ...picture, heightPx: 4096 };
		expect(found({ ...doc, air: { ...doc.air, picture: all } }, "tilted up")).toBeUndefined();
	});

	it("ends where a sky picture is too coarse for the print", () => {
		const picture: SkyPicture = {
			...{ file: "0".repeat(64), name: "Noon", widthPx: 4096, heightPx: 2048, turnDeg: 0 },
			...{ lux: 50_000, saturation: 1, sun: false },
		};
		const doc = shot({ air: { ...blankShot().air, picture } });
		doc.print = { ...doc.print, widthPx: 1000 };
		// 4,096 px around are 652 a radian; a texel may be two pixels: 1,304 pixels a radian at 36 mm · 1.304.
		const room = found(doc, "longer");
		expect(room?.what).toBe("the sky picture is too coarse");
		expect(room?.by).toBeCloseTo((36 * 2 * 4096) / (2 * Math.PI) / 1000, 0);
		expect(room?.cure).toMatch(/hang one that is [5-8],\d+ px wide/);
		expect(found({ ...doc, print: { ...doc.print, widthPx: 300 } }, "longer")?.by ?? 1e9).toBeGreaterThan(100);
		expect(found(shot(), "longer")).toBeUndefined();
	});

	it("ends where the lens comes to a piece, to the ground or to the water", () => {
		const post = newPiece("post", "box", { name: "Post", stands: "level", position: [0, -5, -3.5], size: [1, 30, 1] });
		const doc = shot({ pieces: [post] });
		const near = found(doc, "nearer");
		expect(near?.by).toBeCloseTo(3 - CLEAR_M, 3);
		expect(near?.what).toBe("the lens enters Post");
		// Beside it there is nothing in the way.
		expect(found(shot({ pieces: [{ ...post, position: [4, -5, -3.5] }] }), "nearer")?.what ?? "").not.toContain("Post");
		expect(found({ ...doc, pieces: [{ ...post, hidden: true }] }, "nearer")?.what ?? "").not.toContain("Post");
		const low = found(shot(), "lower");
		expect(low?.by).toBeCloseTo(2 - CLEAR_M, 3);
		expect(low?.what).toBe("the lens enters the ground");
		const ground = groundHeight(shot().ground, 0, 0);
		const wet = shot({ water: { ...blankShot().water, on: true, levelM: ground + 1 } });
		expect(found(wet, "lower")).toMatchObject({ what: "the lens enters the water" });
		expect(found(wet, "lower")?.by).toBeCloseTo(1 - CLEAR_M, 3);
	});

	it("is said in measures of its own", () => {
		expect(roomWords({ way: "lower", by: 0.4321 })).toBe("0.43 m lower");
		expect(roomWords({ way: "higher", by: 31.25 })).toBe("31 m higher");
		expect(roomWords({ way: "wider", by: 22.4 })).toBe("wider to 22 mm");
		expect(roomWords({ way: "turned left", by: 12.04 })).toBe("12.0° turned left");
		expect(Object.keys(WAYS)).toHaveLength(12);
	});
});
