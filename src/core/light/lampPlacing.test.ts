import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { length, sub, type Vec3 } from "../maths/vec.ts";
import { newLamp } from "./lamp.ts";
import { aimAt, ownPosition, placesOf, targetOf } from "./lampPlacing.ts";

const doc = {
	...blankShot(),
	pieces: [
		newPiece("post", "box", {
			position: [3, 0, -8],
			stands: "level",
			headingDeg: 35,
			pitchDeg: -10,
			size: [0.2, 4, 0.2],
		}),
	],
};

describe("where lamps are", () => {
	const lamps = [
		newLamp("a", "spot"),
		newLamp("b", "spot", { stands: "level" }),
		newLamp("c", "spot", { carriedBy: "post" }),
	];
	it("is where they are put, whatever they stand on or are carried by", () => {
		for (const lamp of lamps) {
			const at: Vec3 = [1.25, 2.5, -6.75];
			const [place] = placesOf({ ...lamp, position: ownPosition(lamp, doc, at) }, doc);
			expect(length(sub(place.position, at))).toBeLessThan(0.003);
		}
	});
	it("and they shine at what they are aimed at", () => {
		for (const lamp of lamps) {
			const target: Vec3 = [-2, 0, -4];
			const [place] = placesOf({ ...lamp, ...aimAt(lamp, doc, target) }, doc);
			const way = sub(target, place.position);
			const on = place.axis.map((v, i) => v * length(way) - way[i]);
			expect(Math.hypot(...on) / length(way)).toBeLessThan(0.004);
		}
	});
	it("and their beams end on the ground, or some metres on", () => {
		const [down] = placesOf(newLamp("d", "spot", { stands: "level", position: [0, 3, -5] }), doc);
		expect(targetOf(down, doc)[1]).toBeLessThan(0.5);
		expect(targetOf({ position: [0, 3, -5], axis: [0, 1, 0] }, doc)).toEqual([0, 7, -5]);
	});
});
