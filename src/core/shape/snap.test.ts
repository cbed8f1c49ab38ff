import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../doc/defaults.ts";
import { slidePieces } from "./handPieces.ts";
import { snapMove } from "./snap.ts";

const ground = blankShot().ground;
const wall = newPiece("wall", "box", { name: "Wall", position: [0, 0, -10], size: [6, 3, 1] });
const post = newPiece("post", "box", { position: [-8, 0, -20], size: [0.5, 2, 0.5] });
const place = { ground, pieces: [wall, post] };
const to = (x: number, z: number) => slidePieces([post], x - post.position[0], z - post.position[2]);

describe("a piece that is moved", () => {
	it("comes to the side of another one, both ways, and is told what to", () => {
		const { edit, told } = snapMove(to(3.3, -10.1), place, 0.2);
		expect(told).toEqual(["left side to the right side of Wall", "middle to the middle of Wall"]);
		expect(edit.pieces[0].position).toEqual([expect.closeTo(3.25, 9), 0, expect.closeTo(-10, 9)]);
	});
	it("comes to whole metres where nothing else is near, and stays where none is", () => {
		const { edit, told } = snapMove(to(-20.05, -30.02), place, 0.1);
		expect(told).toEqual(["-20 m right", "30 m away"]);
		expect(edit.pieces[0].position).toEqual([expect.closeTo(-20, 9), 0, expect.closeTo(-30, 9)]);
		expect(snapMove(to(-20.4, -30.4), place, 0.1)).toEqual({ edit: to(-20.4, -30.4), told: [] });
	});
	it("comes to it in its own directions, and takes along what is moved with it", () => {
		const turned = { ...post, headingDeg: 90 };
		const other = newPiece("other", "box", { position: [-8, 0, -22] });
		const all = { ground, pieces: [wall, turned, other] };
		const move = slidePieces([turned, other], 11.3, 12);
		const { edit, told } = snapMove(move, all, 0.3);
		expect(told.length).toBe(2);
		const [a, b] = edit.pieces.map((p) => p.position);
		expect(b[0] - a[0]).toBeCloseTo(0, 9);
		expect(b[2] - a[2]).toBeCloseTo(-2, 9);
	});
	it("comes with an edge to the face of one that is turned against it, along that one's own directions", () => {
		const house = newPiece("house", "box", { name: "House", position: [0, 0, -20], size: [6, 3, 4], headingDeg: 30 });
		const all = { ground, pieces: [house, { ...post, position: [8, 0, -12] as [number, number, number] }] };
		// Beside the house's right face, 0.15 m too far, somewhere along it.
		const [r, f] = [
			[Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)],
			[Math.sin(Math.PI / 6), -Math.cos(Math.PI / 6)],
		];
		const half = 0.25 * (r[0] + r[1]);
		const at = (out: number, along: number) => [r[0] * out + f[0] * along, -20 + r[1] * out + f[1] * along];
		const [x, z] = at(3 + half + 0.15, 0.9);
		const { edit, told } = snapMove(slidePieces([all.pieces[1]], x - 8, z + 12), all, 0.2);
		expect(told[0]).toBe("edge to the right side of House");
		const { position } = edit.pieces[0];
		expect((position[0] - 0) * r[0] + (position[2] + 20) * r[1]).toBeCloseTo(3 + half, 6);
	});
	it("comes to nothing that is hidden or cut out of another", () => {
		const gone = { ground, pieces: [{ ...wall, hidden: true }, post] };
		expect(snapMove(to(3.3, -10.4), gone, 0.2).told).toEqual([]);
	});
});
