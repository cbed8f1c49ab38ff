import { describe, expect, it } from "vitest";
import { type Display, flip, meanFlip } from "./flip.ts";

const size = 64;

function display(
	colour: (x: number, y: number) => readonly [number, number, number],
	width = size,
	height = size,
): Display {
	const data = new Uint8ClampedArray(width * height * 4);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const [r, g, b] = colour(x, y);
			data.set([r, g, b, 255], (y * width + x) * 4);
		}
	return { width, height, data };
}

const flat = (r: number, g: number, b: number) => display(() => [r, g, b]);
const grey = (v: number) => flat(v, v, v);
/** Grey of 128 with steps of so much up and down, in squares of a side. */
const squares = (side: number, by: number) =>
	display((x, y) => {
		const v = 128 + ((Math.floor(x / side) + Math.floor(y / side)) % 2 ? by : -by);
		return [v, v, v];
	});

describe("how different two pictures look", () => {
	it("is nothing for the same picture, and the same either way round", () => {
		expect(meanFlip(squares(5, 40), squares(5, 40))).toBe(0);
		const [a, b] = [squares(5, 40), squares(9, 20)];
		expect(meanFlip(a, b)).toBeCloseTo(meanFlip(b, a), 12);
		expect(meanFlip(a, b)).toBeGreaterThan(0);
	});

	it("is all between green and blue, which HyAB sets farthest apart, and most of all between black and white", () => {
		expect(meanFlip(flat(0, 255, 0), flat(0, 0, 255))).toBeCloseTo(1, 6);
		expect(meanFlip(grey(0), grey(255))).toBeGreaterThan(0.9);
		expect(meanFlip(grey(0), grey(255))).toBeLessThanOrEqual(1);
	});

	it("grows with the difference", () => {
		const steps = [2, 6, 15, 40, 90].map((d) => meanFlip(grey(128), grey(128 + d)));
		for (let i = 1; i < steps.length; i++) expect(steps[i]).toBeGreaterThan(steps[i - 1]);
		expect(steps[0]).toBeLessThan(0.06);
	});

	it("counts less for what the eye blurs: pixels that alternate less than squares of the same strength", () => {
		expect(meanFlip(grey(128), squares(1, 20))).toBeLessThan(0.7 * meanFlip(grey(128), squares(8, 20)));
	});

	it("counts more where an edge has gone than where it has only changed its colour a little", () => {
		const edge = display((x) => (x < size / 2 ? [90, 90, 90] : [166, 166, 166]));
		const gone = flip(edge, grey(128));
		const row = (map: Float64Array, x: number) => map[(size / 2) * size + x];
		expect(row(gone, size / 2)).toBeGreaterThan(row(gone, 4));
		const dimmer = flip(
			edge,
			display((x) => (x < size / 2 ? [94, 94, 94] : [170, 170, 170])),
		);
		expect(row(dimmer, size / 2)).toBeLessThan(0.3 * row(gone, size / 2));
	});

	it("finds a single bright pixel, and only about it", () => {
		const map = flip(
			grey(60),
			display((x, y) => (x === 20 && y === 30 ? [255, 255, 255] : [60, 60, 60])),
		);
		const at = map.indexOf(Math.max(...map));
		expect([at % size, Math.floor(at / size)]).toEqual([20, 30]);
		expect(map[55 * size + 55]).toBeLessThan(1e-3);
	});

	it("refuses pictures of two sizes, and says which", () => {
		const wide = display(() => [0, 0, 0], 32, 16);
		expect(() => flip(grey(0), wide)).toThrow("The pictures differ in size: 64 × 64 and 32 × 16.");
	});
});
