import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { cameraAxes } from "../maths/axes.ts";
import { blurMm, frameOfView, horizonPercent, project, rayThrough, sharpRange, usedFilm } from "./camera.ts";

const camera = {
	...blankShot().camera,
	headingDeg: 31,
	pitchDeg: 4,
	rollDeg: 2,
	position: [3, 1.7, 5] as [number, number, number],
};

describe("frame of view", () => {
	it("projects a ray back to where it was cast", () => {
		const view = frameOfView(camera);
		const d = rayThrough(view, 0.2, 0.7);
		const p = project(view, [3 + 40 * d[0], 1.7 + 40 * d[1], 5 + 40 * d[2]]);
		expect(p.x).toBeCloseTo(0.2, 12);
		expect(p.y).toBeCloseTo(0.7, 12);
		expect(p.depthM).toBeCloseTo(40, 10);
	});
	it("shifts the film without turning the lens", () => {
		const shifted = frameOfView({ ...camera, shiftMm: [4, -3] });
		const d = rayThrough(shifted, 0.2, 0.7);
		const p = project(shifted, [3 + 40 * d[0], 1.7 + 40 * d[1], 5 + 40 * d[2]]);
		expect(p.x).toBeCloseTo(0.2, 12);
		expect(p.y).toBeCloseTo(0.7, 12);
		expect(p.depthM).toBeCloseTo(40, 10);
		// 4 mm of a film 36 mm wide to the right: all that is seen moves 4/36 of the frame to the left.
		const far: [number, number, number] = [200, 30, -300];
		expect(project(frameOfView(camera), far).x - project(shifted, far).x).toBeCloseTo(4 / 36, 10);
		// Held level with the film raised, the horizon lies where tilting put it.
		const tilted = { ...camera, rollDeg: 0 };
		const level = {
			...tilted,
			pitchDeg: 0,
			shiftMm: [0, camera.focalMm * Math.tan((tilted.pitchDeg * Math.PI) / 180)] as [number, number],
		};
		expect(horizonPercent(frameOfView(level))).toBeCloseTo(horizonPercent(frameOfView(tilted)), 8);
	});
	it("turns right with heading, up with pitch, clockwise with roll", () => {
		expect(cameraAxes(90, 0, 0).forward[0]).toBeCloseTo(1);
		expect(cameraAxes(0, 30, 0).forward[1]).toBeCloseTo(0.5);
		expect(cameraAxes(0, 0, 10).right[1]).toBeLessThan(0);
	});
	it("puts the horizon in the middle of a level camera and lower when it looks up", () => {
		expect(horizonPercent(frameOfView({ ...camera, pitchDeg: 0, rollDeg: 0 }))).toBeCloseTo(50);
		expect(horizonPercent(frameOfView({ ...camera, pitchDeg: 5 }))).toBeLessThan(50);
	});
	it("crops to the ratio without changing the lens", () => {
		expect(usedFilm({ widthMm: 36, heightMm: 24 }, 2)).toEqual({ widthMm: 36, heightMm: 18 });
		expect(usedFilm({ widthMm: 36, heightMm: 24 }, 1)).toEqual({ widthMm: 24, heightMm: 24 });
	});
	it("is sharp from half the focus to any distance when focused at the hyperfocal one", () => {
		const c = { ...camera, focusM: null };
		const { hyperfocalM, fromM, toM } = sharpRange(c);
		expect(fromM).toBeCloseTo(hyperfocalM / 2, 9);
		expect(toM).toBe(Number.POSITIVE_INFINITY);
	});
	it("blurs by the circle at both ends of what is sharp", () => {
		const c = { ...camera, focalMm: 85, fStop: 2, focusM: 6 };
		const { fromM, toM } = sharpRange(c);
		for (const end of [fromM, toM]) expect(blurMm(c, end)).toBeCloseTo(c.film.widthMm / 1500, 9);
	});
	it("blurs the horizon by 8.6 px at 24 mm f/1.2 focused at 3 m on 1920", () => {
		const c = { ...camera, focalMm: 24, fStop: 1.2, focusM: 3 };
		expect((blurMm(c, 1e7) / 36) * 1920).toBeCloseTo(8.53, 1);
	});
});
