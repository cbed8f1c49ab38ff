import { describe, expect, it } from "vitest";
import { groundHeight } from "./height.ts";
import { alongHeading, walked } from "./walk.ts";

const ground = { preset: "ridges" as const, seed: 4, heightM: 200 };
const pose = {
	position: [60, groundHeight(ground, 60, 10) + 1.6, 10] as [number, number, number],
	headingDeg: 90,
	pitchDeg: -30,
};

describe("a free view", () => {
	it("walks on the ground, the eyes as high over it as before", () => {
		const [x, y, z] = walked(pose, { right: 0, ahead: 25, up: 0 }, false, ground);
		expect([x, z]).toEqual([expect.closeTo(85, 9), expect.closeTo(10, 9)]);
		expect(y - groundHeight(ground, x, z)).toBeCloseTo(1.6, 9);
		expect(walked(pose, { right: 0, ahead: 0, up: 2 }, false, ground)[1]).toBeCloseTo(pose.position[1] + 2, 9);
	});
	it("flies along the view, whatever the ground does", () => {
		const [x, y] = walked(pose, { right: 0, ahead: 10, up: 0 }, true, ground);
		expect(x - 60).toBeCloseTo(10 * Math.cos(Math.PI / 6), 9);
		expect(y - pose.position[1]).toBeCloseTo(-5, 9);
	});
	it("goes right and away as its heading has them", () => {
		expect(alongHeading(0, 1, 2).map((v) => Math.round(v) + 0)).toEqual([1, -2]);
		expect(alongHeading(90, 1, 2).map((v) => Math.round(v) + 0)).toEqual([2, 1]);
	});
});
