import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { GroundPreset } from "../doc/schema.ts";
import { groundHeight, groundSlope } from "./height.ts";
import { ripples } from "./ripples.ts";
import { groundTint } from "./tint.ts";

const place = fc.record({
	x: fc.double({ min: -20_000, max: 20_000, noNaN: true }),
	z: fc.double({ min: -20_000, max: 20_000, noNaN: true }),
});

describe("the height of the ground", () => {
	for (const preset of GroundPreset.options) {
		it(`of a ${preset} stays within what its height says, everywhere`, () => {
			fc.assert(
				fc.property(place, fc.integer({ min: 0, max: 99_999 }), ({ x, z }, seed) => {
					const h = groundHeight({ preset, seed, heightM: 100 }, x, z);
					expect(Number.isFinite(h)).toBe(true);
					expect(Math.abs(h)).toBeLessThan(preset === "plain" ? 130 : 160);
				}),
				{ numRuns: 300 },
			);
		});

		it(`of a ${preset} has no steps`, () => {
			fc.assert(
				fc.property(place, ({ x, z }) => {
					const ground = { preset, seed: 7, heightM: 50 };
					expect(Math.abs(groundHeight(ground, x + 0.001, z) - groundHeight(ground, x, z))).toBeLessThan(0.02);
				}),
				{ numRuns: 200 },
			);
		});

		it(`of a ${preset} has the slope that its differences say`, () => {
			const ground = { preset, seed: 3, heightM: 40 };
			for (const [x, z] of [
				[3, -8],
				[-120, 44],
				[900, -2100],
			]) {
				const s = groundSlope(ground, x, z);
				expect(s.dx).toBeCloseTo((groundHeight(ground, x + 0.25, z) - groundHeight(ground, x - 0.25, z)) / 0.5, 9);
				expect(s.dz).toBeCloseTo((groundHeight(ground, x, z + 0.25) - groundHeight(ground, x, z - 0.25)) / 0.5, 9);
			}
		});
	}

	it("of a salt flat is level where people walk and rises only far off", () => {
		const ground = { preset: "salt flat" as const, seed: 11, heightM: 90 };
		let far = 0;
		for (let i = 0; i < 400; i++) {
			const a = (i / 400) * 2 * Math.PI;
			expect(Math.abs(groundHeight(ground, 800 * Math.cos(a), 800 * Math.sin(a)))).toBeLessThan(0.12);
			far = Math.max(far, groundHeight(ground, 9000 * Math.cos(a), 9000 * Math.sin(a)));
		}
		expect(far).toBeGreaterThan(40);
	});

	it("of ridges keeps clear of the middle", () => {
		const ground = { preset: "ridges" as const, seed: 5, heightM: 300 };
		for (let i = 0; i < 60; i++)
			expect(Math.abs(groundHeight(ground, 20 * Math.cos(i), 20 * Math.sin(i)))).toBeLessThan(10);
	});
});

describe("the ground's colour", () => {
	it("is one that light can fall on, wet near water and dry far above it", () => {
		const water = { ...blankShot().water, on: true, levelM: 0.05 };
		const ground = { preset: "salt flat" as const, seed: 3, heightM: 60 };
		for (let i = 0; i < 300; i++) {
			const [x, z] = [Math.cos(i) * i * 3, Math.sin(i) * i * 3];
			const h = groundHeight(ground, x, z);
			const tint = groundTint(ground, water, x, h, z, 0);
			for (const v of [...tint.colour, tint.wet]) {
				expect(v).toBeGreaterThanOrEqual(0);
				expect(v).toBeLessThanOrEqual(1);
			}
			if (h < water.levelM) expect(tint.wet).toBe(1);
			if (h > water.levelM + 0.1) expect(tint.wet).toBe(0);
		}
		const dry = groundTint(ground, { ...water, on: false }, 3, 0.04, 5, 0);
		const wet = groundTint(ground, water, 3, 0.04, 5, 0);
		expect(dry.wet).toBe(0);
		wet.colour.forEach((v, c) => expect(v).toBeCloseTo(dry.colour[c] / 2, 9));
	});
});

describe("ripples", () => {
	it("are as high as they are said to be: six standard deviations from trough to crest", () => {
		for (const mm of [1, 6, 40]) {
			const waves = ripples(mm, 4);
			const variance = waves.reduce((s, w) => s + 0.5 * (w.slope / Math.hypot(w.kx, w.kz)) ** 2, 0);
			expect(6000 * Math.sqrt(variance)).toBeCloseTo(mm, 6);
		}
	});
	it("run about the wind, have the lengths that they say, and are the same for the same seed", () => {
		const waves = ripples(8, 21, 0, 90);
		expect(ripples(8, 21, 0, 90)).toEqual(waves);
		expect(ripples(8, 22, 0, 90)).not.toEqual(waves);
		for (const w of waves) {
			expect(Math.hypot(w.kx, w.kz)).toBeCloseTo((2 * Math.PI) / w.lengthM, 9);
			expect(Math.abs((Math.atan2(w.kx, -w.kz) * 180) / Math.PI - 90)).toBeLessThan(66);
		}
	});
	it("run on as waves of their length do: by their weight, and by the tension of the surface where they are short", () => {
		const [still, later] = [ripples(8, 21, 0, 90), ripples(8, 21, 0.5, 90)];
		still.forEach((w, i) => {
			const k = (2 * Math.PI) / w.lengthM;
			expect((w.phase - later[i].phase) / 0.5).toBeCloseTo(Math.sqrt(9.81 * k + 7.28e-5 * k ** 3), 6);
			expect({ ...later[i], phase: w.phase }).toEqual(w);
		});
		// The slowest of all waves on water is 17 mm long and goes 0.23 m a second.
		const speeds = still.map((w, i) => ((w.phase - later[i].phase) / 0.5 / (2 * Math.PI)) * w.lengthM);
		expect(Math.min(...speeds)).toBeGreaterThan(0.23);
	});
	it("are none on still water", () => {
		expect(ripples(0, 1)).toEqual([]);
	});
});
