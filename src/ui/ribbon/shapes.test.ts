import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../../core/doc/defaults.ts";
import { keptView } from "../../core/lens/camera.ts";
import { WHOLE, xOf } from "./scale.ts";
import { FOOT, type Place, shapeAt, shapeOf, yOf } from "./shapes.ts";

const doc = blankShot();
const place: Place = { view: keptView(doc.camera), ground: { ...doc.ground }, span: WHOLE, width: 760, height: 170 };

describe("pieces in the ribbon", () => {
	it("stand at their distance, over the height that they take in the frame", () => {
		const tower = shapeOf(newPiece("t", "box", { position: [0, 0, -100], size: [10, 12, 10] }), place);
		if (!tower) throw new Error("not in the frame");
		expect(tower.x0).toBeCloseTo(xOf(95, WHOLE, 760), 1);
		expect(tower.x1).toBeCloseTo(xOf(Math.hypot(105, 5, 10.35), WHOLE, 760), 1);
		// The lens is level at 1.65 m: the horizon lies half way, most of the tower above it.
		const horizon = yOf(0.5, 170);
		expect(tower.y0).toBeLessThan(horizon);
		expect(tower.y1).toBeGreaterThan(horizon);
		expect(horizon - tower.y0).toBeGreaterThan(4 * (tower.y1 - horizon));
		// Its near half is taller in the frame than its far half.
		expect(tower.near[1] - tower.near[0]).toBeGreaterThanOrEqual(tower.far[1] - tower.far[0]);
	});
	it("are none outside the frame or behind the lens, and never too small to be hit", () => {
		expect(shapeOf(newPiece("b", "box", { position: [0, 0, 20] }), place)).toBeNull();
		expect(shapeOf(newPiece("s", "box", { position: [300, 0, -50] }), place)).toBeNull();
		const far = shapeOf(newPiece("f", "box", { position: [0, 0, -2000], size: [0.5, 0.5, 0.5] }), place);
		expect((far?.x1 ?? 0) - (far?.x0 ?? 0)).toBe(3);
		expect((far?.y1 ?? 0) - (far?.y0 ?? 0)).toBe(3);
	});
	it("keep within the ribbon where they leave the frame", () => {
		const close = shapeOf(newPiece("c", "box", { position: [0, 0, -1.5], size: [1, 30, 1] }), place);
		expect(close?.y0).toBeGreaterThanOrEqual(yOf(-0.06, 170));
		expect(close?.y1).toBeLessThanOrEqual(yOf(1.04, 170));
		expect(yOf(1, 170)).toBe(170 - FOOT);
		expect(yOf(9, 170)).toBe(yOf(1.04, 170));
	});
	it("are picked small before large, from some pixels away", () => {
		const wall = shapeOf(newPiece("w", "box", { position: [0, 0, -40], size: [30, 6, 30] }), place);
		const post = shapeOf(newPiece("p", "cylinder", { position: [0, 0, -30], size: [0.2, 2, 0.2] }), place);
		if (!wall || !post) throw new Error("not in the frame");
		const [x, y] = [(post.x0 + post.x1) / 2, (post.y0 + post.y1) / 2];
		expect(shapeAt([post, wall], x, y)).toBe(post);
		expect(shapeAt([wall, post], x - 3, y)).toBe(post);
		expect(shapeAt([wall, post], wall.x1 - 1, (wall.y0 + wall.y1) / 2)).toBe(wall);
		expect(shapeAt([wall, post], wall.x1 + 9, y)).toBeNull();
		expect(shapeAt([], x, y)).toBeNull();
	});
});
