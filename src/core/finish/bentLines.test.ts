import { describe, expect, it } from "vitest";
import { NO_CHARACTER, sourceOf, tracedArea } from "../lens/character.ts";
import type { Area, Size } from "../maths/area.ts";
import { bent } from "../maths/division.ts";
import { BentLines, framePlanes } from "./bentLines.ts";

const size = { width: 160, height: 90 };
const whole = { x: 0, y: 0, ...size };
const lensOf = (bend: number, fringe = 0) => ({ ...NO_CHARACTER, bend, fringe });

/** A picture of an area by what stands at each place of it. */
const drawn = ({ x, y, width, height }: Area, at: (x: number, y: number) => number): Float32Array =>
	Float32Array.from({ length: width * height }, (_, i) => at(x + (i % width) + 0.5, y + Math.floor(i / width) + 0.5));

/** All lines that come of a picture given in strips of so many rows. */
function brought(
	lines: BentLines,
	planes: Float32Array[],
	{ width, height }: Size,
	rows: number,
	to: Area,
): number[][] {
	const out = planes.map((): number[] => []);
	let next = 0;
	for (let y = 0; y < height; y += rows) {
		const count = Math.min(rows, height - y);
		const strip = planes.map((p) => p.slice(y * width, (y + count) * width));
		for (const part of lines.take({ rows: count, planes: strip })) {
			expect(part.y).toBe(next);
			next += part.rows;
			part.planes.forEach((p, c) => {
				out[c].push(...p);
			});
		}
		// What was given may be used again.
		for (const p of strip) p.fill(-1);
	}
	expect(next).toBe(to.height);
	return out;
}

describe("lines as the lens draws them", () => {
	it.each([
		[-0.3, 0],
		[-0.05, 0.006],
		[0.2, -0.004],
		[0, 0.008],
	])("come from where a bend of %d and a fringe of %d say, whatever the strips", (bend, fringe) => {
		const lens = lensOf(bend, fringe);
		const area = tracedArea(null, size, { lens });
		// Light that changes evenly is kept exactly by the way between pixels.
		const at = (c: number) => (x: number, y: number) => 1000 + 3 * x + 5 * y + 100 * c;
		const planes = [0, 1, 2].map((c) => drawn(area, at(c)));
		const one = brought(new BentLines(lens, size, area, whole), planes, area, area.height, whole);
		for (const rows of [1, 16, 37])
			expect(brought(new BentLines(lens, size, area, whole), planes, area, rows, whole)).toEqual(one);
		for (let c = 0; c < 3; c++)
			for (let i = 0; i < one[c].length; i += 7) {
				const [u, v] = sourceOf((i % 160) + 0.5, Math.floor(i / 160) + 0.5, c, lens, size);
				expect(one[c][i]).toBeCloseTo(at(c)(u, v), 2);
			}
	});

	it("bend a straight edge onto the curve that the model says, within a tenth of a pixel", () => {
		const lens = lensOf(-0.2);
		const area = tracedArea(null, size, { lens });
		const edge = 120.25;
		const plane = drawn(area, (x) => Math.min(1, Math.max(0, x + 0.5 - edge)));
		const [out] = brought(new BentLines(lens, size, area, whole), [plane], area, 16, whole);
		const radius = Math.hypot(size.width, size.height) / 2;
		for (let y = 0; y < size.height; y++) {
			const dark = out.slice(y * 160, (y + 1) * 160).reduce((sum, v) => sum + (1 - v), 0);
			// The place of the edge's curve in this line.
			let t = y + 0.5 - 45;
			let x = 0;
			for (let k = 0; k < 20; k++) {
				const p = bent([edge - 80, t], lens.bend, radius);
				t += y + 0.5 - 45 - p[1];
				x = p[0];
			}
			expect(Math.abs(dark - (x + 80))).toBeLessThan(0.1);
		}
	});

	it("are cut out of a larger picture as they are, and given on where there is nothing to do", () => {
		const area = { x: -4, y: -3, width: 168, height: 97 };
		const plane = drawn(area, (x, y) => x * 7.3 + y * y);
		const [out] = brought(new BentLines(lensOf(0), size, area, whole), [plane], area, 16, whole);
		expect(out).toEqual([...drawn(whole, (x, y) => x * 7.3 + y * y)]);
		expect(BentLines.idle(lensOf(0), whole, whole)).toBe(true);
		expect(BentLines.idle(lensOf(0), area, whole)).toBe(false);
		expect(BentLines.idle(lensOf(0.01), whole, whole)).toBe(false);
		const part = { x: area.x / 160, y: area.y / 90, width: area.width / 160, height: area.height / 90 };
		const { width, height, planes } = framePlanes([plane], area, part, lensOf(0));
		expect([width, height, [...planes[0]]]).toEqual([160, 90, out]);
	});

	it("have no dark ring about a lamp, and mix no numbers", () => {
		const lens = lensOf(-0.1);
		const area = tracedArea(null, size, { lens });
		const lamp = drawn(area, (x, y) => (Math.hypot(x - 40, y - 30) < 2 ? 1e5 : 3));
		const [out] = brought(new BentLines(lens, size, area, whole), [lamp], area, 16, whole);
		expect(Math.min(...out)).toBeGreaterThanOrEqual(3);
		const [ids] = brought(new BentLines(lens, size, area, whole, true), [lamp], area, 16, whole);
		expect(new Set(ids)).toEqual(new Set([3, 1e5]));
	});
});
