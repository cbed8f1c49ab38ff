import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { usualMove } from "../doc/edits/move.ts";
import { usedFilm } from "../lens/camera.ts";
import { roomAbout } from "../lens/character.ts";
import { aimedFor, deliveryArea, deliveryOrder, reachBeyond } from "../lens/delivery.ts";
import { lossesOf } from "./losses.ts";

const upright = { ratio: 9 / 16, share: 1, middle: [0.5, 0.5] as [number, number], widthPx: 1080 };

describe("a delivery", () => {
	it("is the largest area of its ratio that the frame holds, or a share of it, and never reaches beyond", () => {
		expect(deliveryArea(upright, 16 / 9)).toEqual({ x: 0.5 - 81 / 512, y: 0, width: 81 / 256, height: 1 });
		expect(deliveryArea({ ...upright, ratio: 2.39 }, 2)).toMatchObject({ x: 0, width: 1, height: 2 / 2.39 });
		const n = (min: number, max: number) => fc.double({ min, max, noNaN: true });
		fc.assert(
			fc.property(n(0.2, 5), n(0.2, 5), n(0.05, 1), n(0, 1), n(0, 1), (ratio, frame, share, x, y) => {
				const a = deliveryArea({ ratio, share, middle: [x, y] }, frame);
				const inside = a.x >= 0 && a.y >= 0 && a.x + a.width <= 1 + 1e-9 && a.y + a.height <= 1 + 1e-9;
				return inside && Math.abs(((a.width / a.height) * frame) / ratio - 1) < 1e-9;
			}),
		);
	});
	it("is printed as a part of a frame so wide that it has its own size, to the pixel", () => {
		const { camera } = blankShot();
		const n = (min: number, max: number) => fc.double({ min, max, noNaN: true });
		fc.assert(
			fc.property(
				n(0.2, 5),
				n(0.2, 1),
				n(0, 1),
				n(0, 1),
				fc.integer({ min: 16, max: 2400 }),
				n(0.2, 5),
				(ratio, share, x, y, widthPx, frame) => {
					const own = { ...camera, ratio: frame };
					const order = deliveryOrder({ ratio, share, middle: [x, y], widthPx }, own);
					if (!order) return true;
					const film = usedFilm(own.film, own.ratio);
					const { part, width, height } = order;
					const inside = part.x >= 0 && part.y >= 0 && part.x + part.width <= width && part.y + part.height <= height;
					return (
						inside &&
						height === Math.max(1, Math.round((width * film.heightMm) / film.widthMm)) &&
						part.width === widthPx &&
						part.height === Math.max(1, Math.round(widthPx / ratio))
					);
				},
			),
		);
		expect(deliveryOrder({ ...upright, share: 0.05 }, camera)).toBeNull();
	});
	it("reaches beyond the frame by its shift or by more than all of it, and has its own size there, too", () => {
		const raised = { ...upright, shift: [0, 0.25] as [number, number] };
		expect(deliveryArea(raised, 16 / 9)).toMatchObject({ y: -0.25, height: 1 });
		expect(reachBeyond(deliveryArea(raised, 16 / 9))).toBeCloseTo(0.25, 12);
		expect(reachBeyond(deliveryArea(upright, 16 / 9))).toBe(0);
		const tall = deliveryArea({ ...upright, share: 2 }, 16 / 9);
		expect(tall).toMatchObject({ y: -0.5, height: 2 });
		const camera = { ...blankShot().camera, ratio: 16 / 9 };
		const order = deliveryOrder({ ...upright, share: 2 }, camera);
		expect(order?.part).toMatchObject({ width: 1080, height: 1920, y: -480 });
		expect(order?.height).toBe(960);
		// What it needs is made room for.
		const doc = { ...blankShot(), camera, deliveries: [{ ...upright, share: 2, id: "a", name: "Tall" }] };
		expect(roomAbout(doc)).toBeGreaterThanOrEqual(2);
	});
	it("turns its lens over the whole move, and by nothing leaves the shot as it is", () => {
		const doc = blankShot();
		const value = { headingDeg: 170, pitchDeg: 0, rollDeg: 2 };
		const keys = [0, 1].map((timeS) => ({ timeS, value, leave: "even" as const }));
		const moving = { ...doc, move: { ...usualMove(), tracks: [{ value: "camera.direction" as const, keys }] } };
		expect(aimedFor(moving, {})).toBe(moving);
		expect(aimedFor(moving, { aim: [0, 0] })).toBe(moving);
		const aimed = aimedFor(moving, { aim: [20, -5] });
		expect(aimed.camera.headingDeg).toBeCloseTo(doc.camera.headingDeg + 20, 9);
		expect(aimed.camera.pitchDeg).toBeCloseTo(doc.camera.pitchDeg - 5, 9);
		expect(aimed.move.tracks[0].keys[1].value).toEqual({ headingDeg: -170, pitchDeg: -5, rollDeg: 2 });
		expect(moving.move.tracks[0].keys[1].value).toBe(value);
	});
});

describe("what a delivery loses", () => {
	const doc = {
		...blankShot(),
		pieces: [
			newPiece("mid", "box", { name: "Shed", position: [0, 0, -12], size: [1, 2, 1] }),
			newPiece("left", "box", { name: "Gate", position: [-4.5, 0, -12], size: [1, 2, 1] }),
			newPiece("edge", "box", { name: "Heap", position: [2.2, 0, -12], size: [2, 2, 1] }),
			newPiece("wide", "box", { name: "Dyke", position: [0, 0, -14], size: [80, 1.2, 1] }),
		],
		focalPoint: [0.5, 0.5] as [number, number],
	};
	const area = deliveryArea({ ...upright, ratio: 0.8 }, doc.camera.ratio);
	it("are pieces that it cuts and those that it leaves out, not those that the frame cuts as well", () => {
		const { cut, outside } = lossesOf(doc, area);
		expect(cut).toEqual(["Heap"]);
		expect(outside).toEqual(["Gate"]);
		expect(lossesOf(doc, { x: 0, y: 0, width: 1, height: 1 })).toEqual({ cut: [], outside: [], focalKept: 1 });
	});
	it("are the surroundings of the focal point, as a share", () => {
		expect(lossesOf(doc, area).focalKept).toBeCloseTo(1, 9);
		const half = { x: 0, y: 0, width: 0.5, height: 1 };
		expect(lossesOf(doc, half).focalKept).toBeCloseTo(0.5, 9);
		expect(lossesOf({ ...doc, focalPoint: null }, half).focalKept).toBeNull();
	});
});
