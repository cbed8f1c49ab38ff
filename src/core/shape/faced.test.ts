import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { frameOfView } from "../lens/camera.ts";
import { cameraAxes, lookAgainst } from "../maths/axes.ts";
import { dot, length, sub, type Vec3 } from "../maths/vec.ts";
import { type Faced, placeOn, placeUnder } from "./underPoint.ts";

const doc = blankShot();
const view = frameOfView({ ...doc.camera, position: [0, 1, 0], headingDeg: 0, pitchDeg: 0 });
const MIDDLE = { x: 0.5, y: 0.5 };

describe("the side of a thing that lies under a place of the frame", () => {
	it("is told in the piece's own metres, towards who looks, whatever its size and turn", () => {
		const drum = newPiece("drum", "cylinder", {
			...{ position: [0, 0, -5], stands: "level", size: [2, 3, 4], headingDeg: 90 },
		});
		const faced = placeOn(drum, view, { ...doc, pieces: [drum] }, MIDDLE)?.own;
		// Turned by a right angle, its own right side, which is one metre from its middle, looks away from the lens or at it.
		expect(Math.abs(faced?.at[0] ?? 0)).toBeCloseTo(1, 2);
		expect(faced?.at[1]).toBeCloseTo(1, 2);
		expect(length(faced?.normal ?? [0, 0, 0])).toBeCloseTo(1, 6);
		expect((faced?.normal[0] ?? 0) * Math.sign(faced?.at[0] ?? 0)).toBeGreaterThan(0.98);
		expect(placeOn(drum, view, { ...doc, pieces: [drum] }, { x: 0.02, y: 0.02 })).toBeNull();
	});

	it("is that of the copy that is met, turned as it is", () => {
		const posts = newPiece("posts", "box", {
			...{ position: [0, 0, -6], stands: "level", size: [1, 4, 1] },
			repeat: { kind: "ring", count: 5, centre: [0, 3], arcDeg: 360, turned: true },
		});
		const all = { ...doc, pieces: [posts], ground: { ...doc.ground, out: true } };
		let met = 0;
		for (let x = 0.2; x < 0.8; x += 0.02) {
			const faced = placeUnder(view, all, { x, y: 0.5 });
			const near = [-1e-3, 1e-3].map((d) => placeUnder(view, all, { x: x + d, y: 0.5 }));
			if (!faced || near.some((n) => !n || length(sub(n.at, faced.at)) > 0.1)) continue;
			met++;
			// The way along the side, from one place to one beside it, is level with it.
			const along = sub((near[1] as Faced).at, (near[0] as Faced).at);
			expect(Math.abs(dot(along, faced.normal)) / length(along)).toBeLessThan(0.02);
			expect(dot(faced.normal, sub(view.position, faced.at))).toBeGreaterThan(0);
		}
		expect(met).toBeGreaterThan(8);
	});

	it("is that of the nearest, of pieces and the ground", () => {
		const wall = newPiece("wall", "box", {
			...{ position: [0, 0, -6], stands: "level", size: [8, 4, 1], headingDeg: 30 },
		});
		const all = { ...doc, pieces: [wall], ground: { preset: "plain" as const, seed: 1, heightM: 0 } };
		const faced = placeUnder(view, all, MIDDLE);
		const { forward } = cameraAxes(30, 0, 0);
		expect(dot(faced?.normal as Vec3, forward)).toBeCloseTo(-1, 5);
		const ground = placeUnder(view, all, { x: 0.5, y: 0.98 });
		expect(ground?.normal[1]).toBeCloseTo(1, 3);
	});
});

describe("a look against a side", () => {
	it("goes straight against it; against what lies level it has the heading that is told", () => {
		for (const normal of [
			[0, 0, 1],
			[1, 0, 0],
			[0.4, -0.5, -0.7],
			[-0.2, 0.8, 0.3],
		] as Vec3[]) {
			const { headingDeg, pitchDeg } = lookAgainst(normal, 77);
			const { forward } = cameraAxes(headingDeg, pitchDeg, 0);
			expect(dot(forward, normal) / length(normal)).toBeCloseTo(-1, 6);
		}
		expect(lookAgainst([0, 1, 0], 77)).toEqual({ headingDeg: 77, pitchDeg: -90 });
		expect(lookAgainst([0.01, -1, 0], 77).headingDeg).toBe(77);
	});
});
