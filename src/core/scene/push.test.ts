import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { frameOfView, project } from "../lens/camera.ts";
import { transformPoint } from "../maths/vec.ts";
import { pieceTransforms } from "../shape/place.ts";
import { pushAlongSight } from "./push.ts";

describe("pushing a piece along its line of sight", () => {
	const doc = blankShot();
	doc.ground = { preset: "ridges", seed: 3, heightM: 40 };
	doc.camera = { ...doc.camera, position: [3, 12, 5], headingDeg: 20, pitchDeg: -4, rollDeg: 2 };
	const view = frameOfView(doc.camera);
	const corners = (piece: ReturnType<typeof newPiece>) =>
		pieceTransforms(piece, doc).flatMap((m) =>
			[0, 1, 2, 3, 4, 5, 6, 7].map((i) =>
				project(view, transformPoint(m, [i & 1 ? 0.5 : -0.5, i & 2 ? 1 : 0, i & 4 ? 0.5 : -0.5])),
			),
		);

	it("keeps every corner within half a pixel of 1,920, on rough ground too, when its size is kept in the frame", () => {
		for (const stands of ["ground", "level"] as const)
			for (const factor of [0.4, 0.9, 3, 12]) {
				const piece = newPiece("a", "box", { position: [8, 0.5, -30], size: [3, 5, 2], headingDeg: 33, stands });
				const pushed = { ...piece, ...pushAlongSight(piece, doc, doc.camera, factor, "in the frame") };
				const [before, after] = [corners(piece), corners(pushed)];
				before.forEach((b, i) => {
					expect(Math.hypot(after[i].x - b.x, after[i].y - b.y) * 1920).toBeLessThan(0.5);
					expect(after[i].depthM / b.depthM).toBeCloseTo(factor, 3);
				});
			}
	});

	it("keeps repeats in the frame when the ground is level", () => {
		const flat = { ...doc, ground: { preset: "plain" as const, seed: 1, heightM: 0 } };
		const piece = newPiece("a", "box", { position: [2, 0, -20], repeat: { kind: "row", count: 5, step: [1, 3] } });
		const pushed = { ...piece, ...pushAlongSight(piece, flat, doc.camera, 2.5, "in the frame") };
		expect(pushed.repeat).toMatchObject({ step: [2.5, 7.5] });
		const last = (p: typeof piece) => project(view, transformPoint(pieceTransforms(p, flat)[4], [0.5, 1, 0.5]));
		expect(Math.hypot(last(pushed).x - last(piece).x, last(pushed).y - last(piece).y)).toBeLessThan(1e-4);
	});

	it("keeps metres and stands on the ground when its size is kept in metres", () => {
		const piece = newPiece("a", "cone", { position: [8, 0, -30] });
		const pushed = pushAlongSight(piece, doc, doc.camera, 2, "in metres");
		expect(pushed.size).toEqual(piece.size);
		expect(pushed.position).toEqual([13, 0, -65]);
	});
});
