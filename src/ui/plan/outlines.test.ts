import { describe, expect, it } from "vitest";
import { newPiece } from "../../core/doc/defaults.ts";
import { outlineAt, outlineOf, type Place } from "./outlines.ts";

/** Ten pixels a metre, the lens in the middle, north up the plan. */
const place = (headingDeg = 0): Place => ({
	at: (x, z) => ({ x: 100 + 10 * x, y: 100 + 10 * z }),
	headingDeg,
	scale: 10,
});

describe("pieces in the plan", () => {
	it("lie where they stand, as large as what they cover, and never too small to be seen", () => {
		const box = outlineOf(newPiece("a", "box", { position: [3, 0, -4], size: [2, 9, 6] }), place());
		expect(box).toMatchObject({ x: 130, y: 60, box: [-10, -30, 10, 30] });
		expect(box.outlines[0]).toHaveLength(4);
		const post = outlineOf(newPiece("b", "cylinder", { size: [0.05, 4, 0.05] }), place());
		expect(post.box).toEqual([-1.5, -1.5, 1.5, 1.5]);
		expect(post.outlines[0].length).toBeGreaterThan(30);
	});
	it("turn against the lens's heading, and lean over more of the plan", () => {
		const turned = outlineOf(newPiece("a", "box", { size: [4, 1, 1], headingDeg: 90 }), place(90)).box;
		turned.forEach((v, i) => expect(v).toBeCloseTo([-20, -5, 20, 5][i]));
		const [left, top, right, bottom] = outlineOf(
			newPiece("a", "box", { size: [1, 10, 1], pitchDeg: -90 }),
			place(),
		).box;
		expect([left, right]).toEqual([-5, 5]);
		expect(top).toBeCloseTo(-100);
		expect(bottom).toBe(1.5);
	});
	it("tell where their copies stand", () => {
		expect(
			outlineOf(newPiece("a", "box", { repeat: { kind: "row", count: 5, step: [2, 3] } }), place()).copies[4],
		).toEqual({
			x: 80,
			y: -120,
			size: 1,
			turned: [1, 0, -0, 1, 0, 0],
		});
		// What faces across its right has its right on its left.
		const facing = newPiece("a", "box", { repeat: { kind: "facing", acrossM: 3 }, headingDeg: 90 });
		const { turned } = outlineOf(facing, place()).copies[1];
		expect(turned.map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([1, 0, 0, -1, 0, 0]);
	});
	it("are kept until piece or place is another", () => {
		const piece = newPiece("a", "box");
		const here = place();
		expect(outlineOf(piece, here)).toBe(outlineOf(piece, here));
		expect(outlineOf({ ...piece }, here)).not.toBe(outlineOf(piece, here));
		expect(outlineOf(piece, place(1))).not.toBe(outlineOf(piece, here));
	});
});

describe("the piece under a pointer", () => {
	const here = place();
	const yard = outlineOf(newPiece("yard", "box", { size: [12, 1, 12] }), here);
	const hut = outlineOf(newPiece("hut", "box", { position: [2, 0, 0], size: [2, 2, 2] }), here);
	const post = outlineOf(newPiece("post", "cylinder", { position: [-3, 0, 0], size: [0.1, 2, 0.1] }), here);
	const wall = outlineOf(newPiece("wall", "box", { position: [8, 0, -8], size: [8, 2, 0.2], headingDeg: 45 }), here);
	const all = [yard, hut, post, wall];
	const under = (x: number, y: number) => outlineAt(all, x, y)?.piece.id ?? null;
	it("is the smallest of those that lie there", () => {
		expect(under(120, 100)).toBe("hut");
		expect(under(100, 100)).toBe("yard");
	});
	it("is a thin one from some pixels away", () => {
		expect(under(70, 104)).toBe("post");
		expect(under(70, 110)).toBe("yard");
	});
	it("is told along a turned wall, and is none beside it", () => {
		const along = 25 / Math.SQRT2;
		expect(under(180 + along, 20 + along)).toBe("wall");
		expect(under(180 + along, 20 - along)).toBeNull();
		expect(under(10, 190)).toBeNull();
	});
});
