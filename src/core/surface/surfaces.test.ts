import { describe, expect, it } from "vitest";
import { bakeSheet, bakeSteps, type Sheet, type SheetLevel, sheetBytes } from "./sheet.ts";
import { SURFACE_KINDS, SURFACES } from "./surfaces.ts";

const SIZE = 128;
const baked = new Map<string, Sheet>();
const sheetOf = (kind: (typeof SURFACE_KINDS)[number]): Sheet => {
	const sheet = baked.get(kind) ?? bakeSheet(SURFACES[kind], 3, SIZE);
	baked.set(kind, sheet);
	return sheet;
};
const mean = (list: ArrayLike<number>, of: (v: number, i: number) => number | null) => {
	let [sum, count] = [0, 0];
	for (let i = 0; i < list.length; i++) {
		const own = of(list[i], i);
		if (own === null) continue;
		sum += own;
		count++;
	}
	return sum / count;
};
/** Linear light of a channel, mean over a level. */
const light = ({ colour }: SheetLevel, channel: number) =>
	mean(colour, (v, i) => (i % 4 === channel ? (v / 255) ** 2 : null));

describe.each(SURFACE_KINDS)("the surface %s", (kind) => {
	const sheet = sheetOf(kind);
	const [full] = sheet.levels;

	it("has a name of its own, measures that it can have, and colours that things have", () => {
		expect(SURFACE_KINDS.filter((k) => SURFACES[k].name === SURFACES[kind].name)).toHaveLength(1);
		expect(sheet.sideM).toBeGreaterThanOrEqual(0.5);
		expect(sheet.sideM).toBeLessThanOrEqual(8);
		expect(sheet.mostMm - sheet.leastMm).toBeGreaterThan(1);
		expect(sheet.mostMm - sheet.leastMm).toBeLessThan(200);
		for (const c of [0, 1, 2]) {
			expect(light(full, c)).toBeGreaterThan(0.01);
			expect(light(full, c)).toBeLessThan(0.9);
		}
	});

	it("repeats without a seam: over its edges it differs as it does inside", () => {
		const { height, colour, size } = full;
		// The mean step from a column to the next, and from a row to the next, by where it is.
		const steps = (list: ArrayLike<number>, width: number, c: number, down: boolean) =>
			Array.from({ length: size }, (_, k) => {
				let sum = 0;
				for (let n = 0; n < size; n++) {
					const next = (k + 1) % size;
					const [a, b] = down ? [k * size + n, next * size + n] : [n * size + k, n * size + next];
					sum += Math.abs(list[width * a + c] - list[width * b + c]);
				}
				return sum / size;
			});
		for (const down of [false, true])
			for (const all of [steps(height, 1, 0, down), steps(colour, 4, 1, down)]) {
				const inside = all.slice(0, -1).sort((a, b) => a - b);
				// Rows of joints differ more than others: the edge is no more than the most of them.
				expect(all[size - 1]).toBeLessThanOrEqual(1.25 * inside[inside.length - 1]);
			}
	});

	it("keeps its mean colour, roughness and height in all halvings, and what they lose of slopes as variance", () => {
		expect(sheet.levels.map((l) => l.size)).toEqual([128, 64, 32, 16, 8, 4, 2, 1]);
		for (const level of sheet.levels) {
			const all = (light(full, 0) + light(full, 1) + light(full, 2)) / 3;
			for (const c of [0, 1, 2]) expect(Math.abs(light(level, c) - light(full, c)) / all).toBeLessThan(0.01);
			const rough = (l: SheetLevel) => mean(l.colour, (v, i) => (i % 4 === 3 ? v : null));
			expect(Math.abs(rough(level) - rough(full))).toBeLessThan(1);
			expect(Math.abs(mean(level.height, (v) => v) - mean(full.height, (v) => v))).toBeLessThan(1);
		}
		expect(Math.max(...full.variance)).toBeLessThan(1e-6);
		const lost = sheet.levels.map((l) => mean(l.variance, (v) => v));
		for (let i = 1; i < lost.length; i++) expect(lost[i]).toBeGreaterThanOrEqual(lost[i - 1] - 1e-6);
		// Over all of a sheet that repeats the mean slope is none: all of it is variance.
		const { height, size } = full;
		const k = (sheet.mostMm - sheet.leastMm) / 65_535 / ((2 * 1000 * sheet.sideM) / size);
		const squares = mean(height, (_, n) => {
			const [i, j] = [n % size, Math.floor(n / size)];
			const at = (a: number, b: number) => height[((b + size) % size) * size + ((a + size) % size)];
			return (k * (at(i + 1, j) - at(i - 1, j))) ** 2 + (k * (at(i, j + 1) - at(i, j - 1))) ** 2;
		});
		expect(lost[lost.length - 1] / squares).toBeCloseTo(1, 1);
	});

	it("is the same again for the same seed, and another for another", () => {
		const small = bakeSheet(SURFACES[kind], 3, 32);
		expect(bakeSheet(SURFACES[kind], 3, 32)).toEqual(small);
		expect(bakeSheet(SURFACES[kind], 4, 32).levels[0].height).not.toEqual(small.levels[0].height);
	});
});

describe("a sheet", () => {
	it("tells how far it is, and what it takes", () => {
		const told: number[] = [];
		const steps = bakeSteps(SURFACES.brick, 1, 64);
		for (let step = steps.next(); !step.done; step = steps.next()) told.push(step.value);
		expect(told).toEqual([...told].sort((a, b) => a - b));
		expect(told[told.length - 1]).toBeLessThanOrEqual(1);
		// Ten bytes a texel, and a third more for the halvings.
		expect(sheetBytes(bakeSheet(SURFACES.brick, 1, 64)) / (64 * 64 * 10)).toBeCloseTo(4 / 3, 2);
	});
	it("is refused in other sizes, in a sentence", () => {
		for (const size of [0, 3, 100, 8192, Number.NaN])
			expect(() => bakeSheet(SURFACES.sand, 1, size)).toThrow("4 to 4096 texels a side, a power of two");
	});
});
