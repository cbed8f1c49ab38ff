import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { type Area, within } from "../maths/area.ts";
import { frameOfView, project, rayThrough } from "./camera.ts";
import {
	areaWithRoom,
	handedBend,
	isStretched,
	NO_CHARACTER,
	roomAbout,
	sourceArea,
	sourceOf,
	tracedArea,
	widened,
} from "./character.ts";

const size = { width: 1920, height: 804 };
const lensOf = (bend: number, fringe = 0) => ({ ...NO_CHARACTER, bend, fringe });
const inside = (a: Area, x: number, y: number) => x >= a.x && y >= a.y && x <= a.x + a.width && y <= a.y + a.height;

describe("what is traced about the frame", () => {
	it("is the frame itself for a lens without character", () => {
		expect(tracedArea(null, size, {})).toEqual({ x: 0, y: 0, ...size });
		expect(roomAbout(blankShot())).toBe(1);
		const { camera } = blankShot();
		expect(widened(camera, 1)).toBe(camera);
	});

	it("holds all that the lens brings to any part of the frame, and little more", () => {
		fc.assert(
			fc.property(
				fc.double({ min: -0.35, max: 0.35, noNaN: true }),
				fc.double({ min: -0.01, max: 0.01, noNaN: true }),
				fc.double({ min: 0, max: 0.9, noNaN: true }),
				fc.double({ min: 0, max: 0.9, noNaN: true }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				(bend, fringe, left, top, u, v) => {
					const lens = lensOf(bend, fringe);
					const part = {
						x: Math.floor(left * size.width),
						y: Math.floor(top * size.height),
						width: Math.ceil(0.1 * size.width),
						height: Math.ceil(0.1 * size.height),
					};
					const area = sourceArea(part, size, lens);
					const [x, y] = [part.x + u * part.width, part.y + v * part.height];
					return [0, 1, 2].every((c) => inside(area, ...sourceOf(x, y, c, lens, size)));
				},
			),
			{ numRuns: 2000 },
		);
		// A barrel of 10 %: its corners come from 1 / 0.9 times as far.
		const area = tracedArea(null, size, { lens: lensOf(-0.1) });
		expect(-area.x).toBeGreaterThan(0.5 * size.width * (1 / 0.9 - 1));
		expect(-area.x).toBeLessThan(0.5 * size.width * (1 / 0.9 - 1) + 5);
	});

	it("is short of a finish that bends more, on any side, and the edges are then stretched", () => {
		const barrel = (bend: number) => ({ lens: lensOf(bend) });
		const whole = { x: 0, y: 0, ...size };
		expect(isStretched(whole, null, size, {})).toBe(false);
		expect(isStretched(whole, null, size, barrel(-0.1))).toBe(true);
		const wide = tracedArea(null, size, barrel(-0.1));
		expect(isStretched(wide, null, size, barrel(-0.1))).toBe(false);
		expect(isStretched(wide, null, size, barrel(-0.05))).toBe(false);
		expect(isStretched(wide, null, size, barrel(-0.15))).toBe(true);
		// A part in the middle has what it needs about it; one at the right asks for more on that side alone.
		expect(isStretched(whole, { x: 900, y: 400, width: 120, height: 60 }, size, barrel(-0.1))).toBe(false);
		const right = { x: 1700, y: 300, width: 220, height: 200 };
		expect(isStretched(right, right, size, barrel(-0.1))).toBe(true);
	});

	it("grows by the overscan on each side", () => {
		expect(tracedArea(null, size, {}, 0.1)).toEqual({ x: -192, y: -81, width: 1920 + 384, height: 804 + 162 });
	});

	it("has room for the lens in steps, so that a bend in the hand makes nothing anew", () => {
		const room = (bend: number) => roomAbout({ ...blankShot(), finish: { ...blankShot().finish, lens: lensOf(bend) } });
		expect(room(-0.05)).toBe(room(-0.06));
		expect(room(-0.3)).toBeGreaterThan(room(-0.1));
		for (const bend of [-0.35, -0.2, -0.02, 0.1]) {
			const area = tracedArea(null, size, { lens: lensOf(bend) });
			const held = areaWithRoom(size, room(bend));
			expect(inside(held, area.x, area.y)).toBe(true);
		}
		expect(within({ x: -3, y: -2, width: 9, height: 9 }, { x: 0, y: 0, width: 2, height: 2 })).toMatchObject({
			x: 3,
			y: 2,
		});
	});

	it("is seen by a camera that is as much wider, with the same middle and the same focus", () => {
		const camera = { ...blankShot().camera, shiftMm: [2, -1] as [number, number] };
		const wide = widened(camera, 1.3);
		const [a, b] = [frameOfView(camera), frameOfView(wide)];
		expect(b.tanX / a.tanX).toBeCloseTo(1.3, 9);
		expect(b.tanY / a.tanY).toBeCloseTo(1.3, 9);
		expect(b.middle).toEqual(a.middle);
		expect(wide.focusM).toBeGreaterThan(0);
		expect(widened(camera, 1.3)).toBe(wide);
	});
});

describe("a bent view", () => {
	it("projects to where the picture shows it, and looks through the same place", () => {
		fc.assert(
			fc.property(
				fc.double({ min: -0.3, max: 0.3, noNaN: true }),
				fc.double({ min: 0.02, max: 0.98, noNaN: true }),
				fc.double({ min: 0.02, max: 0.98, noNaN: true }),
				(bend, x, y) => {
					const view = { ...frameOfView(blankShot().camera), bend };
					const d = rayThrough(view, x, y);
					const at = project(view, [0, 1, 2].map((c) => view.position[c] + 20 * d[c]) as [number, number, number]);
					const [sx, sy] = sourceOf(x * 1000, (y * 1000 * view.tanY) / view.tanX, 1, lensOf(bend), {
						width: 1000,
						height: (1000 * view.tanY) / view.tanX,
					});
					const straight = project(
						{ ...view, bend: undefined },
						[0, 1, 2].map((c) => view.position[c] + 20 * d[c]) as [number, number, number],
					);
					const off = Math.hypot(straight.x * 1000 - sx, (straight.y * 1000 * view.tanY) / view.tanX - sy);
					return Math.hypot(at.x - x, at.y - y) < 1e-9 && off < 1e-6;
				},
			),
		);
	});

	it("takes a reference's bend, for its own diagonal", () => {
		const film = { widthMm: 36, heightMm: 24 };
		expect(handedBend({ film, ratio: 1.5 }, 1.5, -0.1)).toBeCloseTo(-0.1, 12);
		// Cut to a square it has the less diagonal, and bends the less over it.
		const square = handedBend({ film, ratio: 1 }, 1.5, -0.1);
		expect(square).toBeCloseTo((-0.1 * 2 * 24 ** 2) / (36 ** 2 + 24 ** 2), 12);
	});
});
