import { beforeAll, describe, expect, it } from "vitest";
import { blend } from "../../core/surface/field.ts";
import {
	firstTexel,
	levelsOf,
	MOST_LOST,
	meanOf,
	type Sheet,
	type SheetTexel,
	sheetBytes,
	texelAt,
} from "../../core/surface/sheet.ts";
import { SURFACE_KINDS, SURFACES, type SurfaceKind } from "../../core/surface/surfaces.ts";
import { bakeSheet, bakeSteps, type SheetKernel } from "./bake.ts";
import { sheetKernelOf } from "./maker.ts";
import { sheetModule } from "./node.ts";

const SIZE = 128;
let kernel: SheetKernel;
beforeAll(async () => {
	kernel = sheetKernelOf(await sheetModule());
});
const baked = new Map<SurfaceKind, Sheet>();
const sheetOf = (kind: SurfaceKind): Sheet => {
	const sheet = baked.get(kind) ?? bakeSheet(kernel, SURFACES[kind], 3, SIZE);
	baked.set(kind, sheet);
	return sheet;
};
/** The texels of a level. */
const level = (sheet: Sheet, l: number): SheetTexel[] => {
	const first = firstTexel(sheet.size, l);
	return Array.from({ length: (sheet.size >> l) ** 2 }, (_, n) => texelAt(sheet, first + n));
};
const mean = <T>(list: readonly T[], of: (v: T) => number) => list.reduce((sum, v) => sum + of(v), 0) / list.length;

describe.each(SURFACE_KINDS)("the surface %s", (kind) => {
	it("has a name of its own, measures that it can have, and colours that things have", () => {
		const sheet = sheetOf(kind);
		const { name, depthMm, grain } = SURFACES[kind];
		expect(SURFACE_KINDS.filter((k) => SURFACES[k].name === name)).toHaveLength(1);
		expect(sheet.sideM).toBeGreaterThanOrEqual(0.2);
		expect(sheet.sideM).toBeLessThanOrEqual(8);
		// It lies as deep as it says, within what a seed and the size of texels change.
		const depth = sheet.mostMm - sheet.leastMm;
		expect(depth / depthMm).toBeGreaterThan(0.6);
		expect(depth / depthMm).toBeLessThan(1.5);
		if (typeof grain !== "string") expect(Number.isInteger(grain.blocks)).toBe(true);
		const { colour, roughness } = meanOf(sheet);
		for (const c of colour) {
			expect(c).toBeGreaterThan(0.008);
			expect(c).toBeLessThan(0.92);
		}
		expect(roughness).toBeGreaterThan(0.02);
	});

	it("repeats without a seam: over its edges it differs as it does inside", () => {
		const sheet = sheetOf(kind);
		const full = level(sheet, 0);
		// The mean step from a column to the next, and from a row to the next, by where it is.
		const steps = (of: (t: SheetTexel) => number, down: boolean) =>
			Array.from({ length: SIZE }, (_, k) => {
				let sum = 0;
				for (let n = 0; n < SIZE; n++) {
					const next = (k + 1) % SIZE;
					const [a, b] = down ? [k * SIZE + n, next * SIZE + n] : [n * SIZE + k, n * SIZE + next];
					sum += Math.abs(of(full[a]) - of(full[b]));
				}
				return sum / SIZE;
			});
		for (const down of [false, true])
			for (const all of [steps((t) => t.heightMm, down), steps((t) => t.colour[1], down)]) {
				const inside = all.slice(0, -1).sort((a, b) => a - b);
				// Rows of joints differ more than others: the edge is no more than the most of them.
				expect(all[SIZE - 1]).toBeLessThanOrEqual(1.25 * inside[inside.length - 1]);
			}
	});

	it("keeps its mean colour, roughness and height in all halvings, and what they lose of slopes as variance", () => {
		const sheet = sheetOf(kind);
		const levels = Array.from({ length: levelsOf(SIZE) }, (_, l) => level(sheet, l));
		expect(levels.map((l) => l.length)).toEqual([128, 64, 32, 16, 8, 4, 2, 1].map((n) => n * n));
		const [full] = levels;
		const light = (l: SheetTexel[], c: number) => mean(l, (t) => t.colour[c]);
		const all = (light(full, 0) + light(full, 1) + light(full, 2)) / 3;
		for (const l of levels) {
			// Of one texel or a few, a byte's own step is more.
			const step = l.length > 16 ? 0 : 1 / 255 / Math.sqrt(all);
			expect(Math.abs((light(l, 0) + light(l, 1) + light(l, 2)) / 3 / all - 1)).toBeLessThan(0.01 + step);
			for (const c of [0, 1, 2])
				expect(Math.abs(Math.sqrt(light(l, c)) - Math.sqrt(light(full, c)))).toBeLessThan(0.6 / 255);
			expect(Math.abs(mean(l, (t) => t.roughness) - mean(full, (t) => t.roughness))).toBeLessThan(0.004);
			const range = sheet.mostMm - sheet.leastMm;
			expect(Math.abs(mean(l, (t) => t.heightMm) - mean(full, (t) => t.heightMm))).toBeLessThan(range / 10_000);
		}
		expect(Math.max(...full.map((t) => t.variance))).toBeLessThan(1e-3);
		// Over all of a sheet that repeats the mean slope is none: all of it is variance.
		const squares = mean(full, ({ slope: [dx, dy] }) => dx * dx + dy * dy);
		const step = MOST_LOST / 255;
		const kept = Math.min(MOST_LOST, Math.sqrt(squares));
		expect(Math.abs(Math.sqrt(meanOf(sheet).variance) - kept)).toBeLessThan(step);
		expect(Math.hypot(...meanOf(sheet).slope)).toBeLessThan(1e-3);
	});

	it("has slopes that are those of its heights", () => {
		const sheet = sheetOf(kind);
		const full = level(sheet, 0);
		const run = (2 * 1000 * sheet.sideM) / SIZE;
		const at = (i: number, j: number) => full[((j + SIZE) % SIZE) * SIZE + ((i + SIZE) % SIZE)].heightMm;
		for (let n = 0; n < SIZE * SIZE; n += 7) {
			const [i, j] = [n % SIZE, Math.floor(n / SIZE)];
			const { slope } = full[n];
			const own = [(at(i + 1, j) - at(i - 1, j)) / run, (at(i, j + 1) - at(i, j - 1)) / run];
			for (const c of [0, 1]) expect(Math.abs(slope[c] - Math.max(-7.99, Math.min(7.99, own[c])))).toBeLessThan(2e-3);
		}
	});

	it("is the same again for the same seed, and another for another", () => {
		const small = bakeSheet(kernel, SURFACES[kind], 3, 32);
		expect(bakeSheet(kernel, SURFACES[kind], 3, 32)).toEqual(small);
		expect(bakeSheet(kernel, SURFACES[kind], 4, 32).words).not.toEqual(small.words);
	});
});

describe("a sheet", () => {
	it("tells how far it is, and what it takes", () => {
		const told: number[] = [];
		const steps = bakeSteps(kernel, SURFACES.brick, 1, 256);
		for (let step = steps.next(); !step.done; step = steps.next()) told.push(step.value);
		expect(told.length).toBeGreaterThan(1);
		expect(told).toEqual([...told].sort((a, b) => a - b));
		expect(told[told.length - 1]).toBeLessThanOrEqual(1);
		// Twelve bytes a texel, and a third more for the halvings.
		expect(sheetBytes(bakeSheet(kernel, SURFACES.brick, 1, 64)) / (64 * 64 * 12)).toBeCloseTo(4 / 3, 2);
	});
	it("tells the mean about each place, over its edges, of what a recipe asks it for", () => {
		const made = (reach: number | null) =>
			bakeSheet(
				kernel,
				{
					...SURFACES.sand,
					made: (p) => {
						const high = p.cloudy({ cells: 6 }).times(20);
						return {
							heightMm: reach === null ? high : high.meanWithin(reach),
							colour: blend([0, 0, 0], [1, 1, 1], high),
							roughness: 1,
						};
					},
				},
				1,
				64,
			);
		const [plain, means] = [level(made(null), 0), level(made(3 / 64), 0)];
		const at = (i: number, j: number) => plain[((j + 64) % 64) * 64 + ((i + 64) % 64)].heightMm;
		for (let n = 0; n < 64 * 64; n += 5) {
			let sum = 0;
			for (let j = -3; j <= 3; j++) for (let i = -3; i <= 3; i++) sum += at((n % 64) + i, Math.floor(n / 64) + j);
			expect(means[n].heightMm).toBeCloseTo(sum / 49, 2);
		}
	});
	it("is refused in other sizes, in a sentence", () => {
		for (const size of [0, 3, 100, 8192, Number.NaN])
			expect(() => bakeSheet(kernel, SURFACES.sand, 1, size)).toThrow("4 to 4096 texels a side, a power of two");
	});
	it("looks alike in all sizes: its mean is that of a finer one", () => {
		const [small, large] = [128, 512].map((size) => meanOf(bakeSheet(kernel, SURFACES.brick, 1, size)));
		for (const c of [0, 1, 2]) expect(Math.abs(small.colour[c] / large.colour[c] - 1)).toBeLessThan(0.05);
	});
});
