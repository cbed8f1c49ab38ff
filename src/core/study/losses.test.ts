import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { usedFilm } from "../lens/camera.ts";
import { deliveryArea, deliveryOrder } from "../lens/delivery.ts";
import { partInPixels } from "../scene/part.ts";
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
					const high = Math.max(1, Math.round((order.widthPx * film.heightMm) / film.widthMm));
					const part = partInPixels(order.part, order.widthPx, high) ?? { width: order.widthPx, height: high };
					return part.width === widthPx && part.height === Math.max(1, Math.round(widthPx / ratio));
				},
			),
		);
		expect(deliveryOrder({ ...upright, share: 0.05 }, camera)).toBeNull();
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
