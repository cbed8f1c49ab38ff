import { describe, expect, it } from "vitest";
import { cutOut } from "./cutOut.ts";

const [columns, rows] = [5, 3];
const plane = Float32Array.from({ length: columns * rows }, (_, i) => 100 * Math.floor(i / columns) + (i % columns));

describe("what is cut out of a plane", () => {
	it.each([
		["within it", { x: 1, y: 1, width: 3, height: 2 }],
		["all about it", { x: -3, y: -2, width: 12, height: 8 }],
		["at its left", { x: -2, y: 0, width: 4, height: 3 }],
		["at its right and below", { x: 3, y: 2, width: 6, height: 4 }],
		["wholly beside it", { x: 7, y: -9, width: 3, height: 2 }],
	])("is each pixel of it, and those at its edges again beyond them: %s", (_, cut) => {
		const { x, y, width, height } = cut;
		const clamp = (v: number, size: number) => Math.min(size - 1, Math.max(0, v));
		const wanted = Array.from({ length: width * height }, (_, i) => {
			const [column, row] = [clamp(x + (i % width), columns), clamp(y + Math.floor(i / width), rows)];
			return 100 * row + column;
		});
		expect([...cutOut(plane, columns, cut, new Float32Array(width * height).fill(-1))]).toEqual(wanted);
	});

	it("is as numbers what whole numbers are", () => {
		const counts = Uint32Array.of(4, 65_536, 7, 8);
		expect([...cutOut(counts, 2, { x: 0, y: 0, width: 3, height: 1 }, new Float32Array(3))]).toEqual([
			4, 65_536, 65_536,
		]);
	});
});
