import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { adjustPixels, plainLook, shownSize, toFile, toShown } from "../doc/look.ts";
import type { Look, Reference } from "../doc/schema.ts";
import { randomStream } from "../maths/hash.ts";
import { emptinessOf } from "./emptiness.ts";
import {
	type ColourShare,
	fromOklab,
	paletteDistance,
	paletteOf,
	toOklab,
	valueDistance,
	valueSteps,
} from "./palette.ts";

/** An evening of soft bands: sky, sun, ridge, water. */
function evening(width: number, height: number): Uint8ClampedArray {
	const pixels = new Uint8ClampedArray(width * height * 4);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			const [u, v] = [(x + 0.5) / width, (y + 0.5) / height];
			const ridge = 0.55 + 0.04 * Math.sin(9 * u);
			const near = Math.hypot(u - 0.7, (v - 0.4) * 0.6);
			let c = [110 + 90 * v, 120 + 50 * v, 160 - 40 * v];
			if (near < 0.06) c = [250, 225, 170];
			else if (v > ridge) c = v > 0.75 ? [38, 46, 60] : [62, 66, 78];
			pixels.set([c[0], c[1], c[2], 255], 4 * (y * width + x));
		}
	return pixels;
}

describe("a palette", () => {
	it("finds flat colours with their shares", () => {
		const pixels = new Uint8ClampedArray(400 * 4);
		for (let i = 0; i < 400; i++)
			pixels.set(i < 200 ? [200, 40, 30, 255] : i < 320 ? [20, 60, 120, 255] : [240, 240, 230, 255], 4 * i);
		const palette = paletteOf(pixels);
		expect(palette.map((c) => Number(c.share.toFixed(3)))).toEqual([0.5, 0.3, 0.2]);
		expect(palette[0].colour[0]).toBeCloseTo(((200 / 255 + 0.055) / 1.055) ** 2.4, 3);
		expect(paletteOf(new Uint8ClampedArray(40))).toEqual([]);
	});

	it("is the same for the same picture and nearly so for a scaled copy", () => {
		const large = evening(960, 540);
		const one = paletteOf(large);
		expect(paletteOf(large)).toEqual(one);
		expect(one.length).toBeGreaterThanOrEqual(5);
		expect(one.length).toBeLessThanOrEqual(8);
		expect(one.reduce((s, c) => s + c.share, 0)).toBeCloseTo(1, 6);
		expect(paletteDistance(one, paletteOf(evening(240, 135)))).toBeLessThan(0.6);
		expect(valueDistance(valueSteps(large, 5), valueSteps(evening(240, 135), 5))).toBeLessThan(0.6);
	});

	it("cuts values where they lie least far from their steps", () => {
		const steps = valueSteps(evening(400, 225), 3);
		expect(steps.map((s) => s.share).reduce((a, b) => a + b)).toBeCloseTo(1, 6);
		expect(steps[0].lightness).toBeLessThan(30);
		expect(steps[2].lightness).toBeGreaterThan(50);
		for (const n of [3, 5, 7] as const) expect(valueSteps(evening(64, 64), n).length).toBeLessThanOrEqual(n);
		const flat = new Uint8ClampedArray(64).fill(128);
		expect(valueSteps(flat, 5)).toHaveLength(1);
	});

	it("measures how far two palettes lie apart: nothing to itself, the same both ways, never round about", () => {
		const random = randomStream(4);
		const draw = (): ColourShare[] => {
			const colours = Array.from({ length: 3 + Math.floor(random() * 5) }, () => ({
				colour: [random(), random(), random()] as [number, number, number],
				share: random(),
			}));
			const all = colours.reduce((s, c) => s + c.share, 0);
			return colours.map((c) => ({ ...c, share: c.share / all }));
		};
		for (let i = 0; i < 60; i++) {
			const [a, b, c] = [draw(), draw(), draw()];
			expect(paletteDistance(a, a)).toBeCloseTo(0, 6);
			expect(paletteDistance(a, b)).toBeCloseTo(paletteDistance(b, a), 6);
			expect(paletteDistance(a, c)).toBeLessThanOrEqual(paletteDistance(a, b) + paletteDistance(b, c) + 1e-6);
		}
		// All of it has to go from black to white: one lightness, a hundred hundredths.
		expect(paletteDistance([{ colour: [0, 0, 0], share: 1 }], [{ colour: [1, 1, 1], share: 1 }])).toBeCloseTo(100, 1);
		expect(
			valueDistance(
				[{ lightness: 20, share: 1 }],
				[
					{ lightness: 50, share: 0.5 },
					{ lightness: 20, share: 0.5 },
				],
			),
		).toBeCloseTo(15, 6);
	});

	it("goes to OKLab and back", () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 1, noNaN: true }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				fc.double({ min: 0, max: 1, noNaN: true }),
				(r, g, b) => {
					const back = fromOklab(...toOklab(r, g, b));
					return [r, g, b].every((v, i) => Math.abs(v - back[i]) < 1e-4);
				},
			),
		);
	});
});

describe("the look of a reference", () => {
	const reference = (look: Partial<Look>): Reference => ({
		id: "r",
		name: "ponds",
		blob: "0".repeat(64),
		widthPx: 800,
		heightPx: 500,
		look: { ...plainLook(), ...look },
	});

	it("turns, mirrors and crops places and leads them back", () => {
		const clockwise = reference({ turns: 1 });
		expect(shownSize(clockwise)).toEqual({ width: 500, height: 800 });
		// The top-left corner goes to the top right.
		expect(toShown(clockwise, [0, 0])).toEqual([500, 0]);
		expect(toShown(reference({ mirrored: true }), [10, 20])).toEqual([790, 20]);
		expect(toShown(reference({ crop: { x: 0.25, y: 0.5, width: 0.5, height: 0.5 } }), [300, 300])).toEqual([100, 50]);
		for (const turns of [0, 1, 2, 3])
			for (const mirrored of [false, true]) {
				const r = reference({ turns, mirrored, crop: { x: 0.1, y: 0.2, width: 0.7, height: 0.5 } });
				const [x, y] = toFile(r, toShown(r, [123, 321]));
				expect(x).toBeCloseTo(123, 9);
				expect(y).toBeCloseTo(321, 9);
			}
	});

	it("adjusts colours: grey stays grey under hue and saturation, a stop doubles light", () => {
		const look = (over: Partial<Look>) => ({ ...plainLook(), ...over });
		const adjusted = (colour: number[], over: Partial<Look>) => {
			const pixels = new Uint8ClampedArray([...colour, 255]);
			adjustPixels(pixels, look(over));
			return [...pixels.subarray(0, 3)];
		};
		expect(adjusted([90, 90, 90], { hueDeg: 70, saturation: 2.5 })).toEqual([90, 90, 90]);
		expect(adjusted([90, 120, 30], {})).toEqual([90, 120, 30]);
		expect(adjusted([200, 60, 30], { saturation: 0 }).every((v, _, all) => v === all[0])).toBe(true);
		const [warm] = [adjusted([100, 100, 100], { warmth: 1 })];
		expect(warm[0]).toBeGreaterThan(warm[2]);
		const linear = (v: number) => ((v / 255 + 0.055) / 1.055) ** 2.4;
		expect(linear(adjusted([100, 100, 100], { brightness: 1 })[0]) / linear(100)).toBeCloseTo(2, 0);
		expect(adjusted([128, 128, 128], { contrast: 2 })[0]).toBeCloseTo(128, -1);
		// Red turned by 120° is mostly green.
		const turned = adjusted([200, 40, 40], { hueDeg: 120 });
		expect(turned[1]).toBeGreaterThan(turned[0]);
	});
});

describe("the empty share of the frame", () => {
	it("counts what hardly varies, third by third and around the focal point", () => {
		const [width, height] = [192, 108];
		const pixels = new Uint8ClampedArray(width * height * 4).fill(255);
		for (let y = 0; y < height; y++)
			for (let x = 0; x < width; x++) {
				const busy = x >= 128 && y >= 54;
				const g = busy ? ((x * 7 + y * 13) % 5) * 40 : 150 + 0.05 * y;
				pixels.set([g, g, g], 4 * (y * width + x));
			}
		const none = emptinessOf(pixels, width, height, null);
		expect(none.thirds[0]).toBe(1);
		expect(none.thirds[1]).toBe(1);
		expect(none.thirds[2]).toBeCloseTo(0.5, 1);
		expect(none.focal).toBeNull();
		expect(emptinessOf(pixels, width, height, [0.85, 0.95]).focal).toBeLessThan(0.2);
		expect(emptinessOf(pixels, width, height, [0.2, 0.3]).focal).toBe(1);
	});
});
