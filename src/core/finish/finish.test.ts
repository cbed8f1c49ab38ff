import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decodeSrgb, encodeSrgb, luminance } from "../colour/linear.ts";
import { blankShot } from "../doc/defaults.ts";
import { NO_CHARACTER } from "../lens/character.ts";
import {
	contrastOf,
	exposureFactor,
	falloffAt,
	finishPicture,
	proposeEv,
	tintOf,
	toneCurve,
	vignetteAt,
} from "./finish.ts";

const finish = { ...blankShot().finish, vignette: 0 };
const camera = { ...blankShot().camera, ev100: 12 };
const dark = { ...camera, ev100: 4 };
const flat = (v: number, n = 64) => new Float32Array(n).fill(v);
const grey = (v: number): [Float32Array, Float32Array, Float32Array] => [flat(v), flat(v), flat(v)];

describe("the finish", () => {
	it("keeps middle grey about where it is, is never lower for more light, and ends at white", () => {
		expect(toneCurve(0.18, "print")).toBeGreaterThan(0.16);
		expect(toneCurve(0.18, "print")).toBeLessThan(0.21);
		expect(toneCurve(20, "print")).toBe(1);
		expect(toneCurve(0.4, "straight")).toBe(0.4);
		fc.assert(
			fc.property(
				fc.double({ min: 0, max: 30, noNaN: true }),
				fc.double({ min: 0, max: 5, noNaN: true }),
				(x, d) => toneCurve(x + d, "print") >= toneCurve(x, "print") - 1e-12,
			),
		);
	});
	it("takes a step of exposure as twice the light", () => {
		expect(exposureFactor(12, { ...finish, exposureEv: 1 }) / exposureFactor(12, finish)).toBeCloseTo(2, 12);
		expect(exposureFactor(11, finish) / exposureFactor(12, finish)).toBeCloseTo(2, 12);
	});
	it("turns contrast about middle grey", () => {
		expect(contrastOf(0.18, 1.7)).toBeCloseTo(0.18, 12);
		expect(contrastOf(0.36, 2)).toBeGreaterThan(0.36);
		expect(contrastOf(0.09, 2)).toBeLessThan(0.09);
	});
	it("encodes sRGB and back", () => {
		fc.assert(
			fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (x) => Math.abs(decodeSrgb(encodeSrgb(x)) - x) < 1e-9),
		);
	});
	it("finishes a whole picture as its formulas say, within one step of 8 bits", () => {
		for (const L of [3, 40, 400, 2500, 90_000]) {
			const px = finishPicture(grey(L), 8, 8, camera, { ...finish, contrast: 1.2 });
			const want = 255 * encodeSrgb(toneCurve(contrastOf(L * exposureFactor(12, finish), 1.2), "print"));
			expect(Math.abs(px[0] - want)).toBeLessThanOrEqual(1);
			expect(px[3]).toBe(255);
		}
	});
	it("lets light that is far too bright turn white, and keeps hues that are not", () => {
		const flame = (L: number) => finishPicture([flat(L), flat(L * 0.4), flat(0)], 8, 8, dark, finish);
		const [pale, strong] = [flame(30_000), flame(12)];
		expect(pale[2]).toBeGreaterThan(200);
		expect(strong[2]).toBeLessThan(30);
		expect(strong[0]).toBeGreaterThan(1.3 * strong[1]);
		const straight = finishPicture([flat(30_000), flat(12_000), flat(0)], 8, 8, dark, { ...finish, curve: "straight" });
		expect(straight[2]).toBe(0);
	});
	it("darkens corners and not the middle", () => {
		expect(vignetteAt(0.5, 0)).toBe(1);
		expect(vignetteAt(0.5, 1)).toBeLessThan(0.7);
		const n = 33;
		const plane = flat(500, n * n);
		const px = finishPicture([plane, plane, plane], n, n, camera, { ...finish, vignette: 1 });
		expect(px[0]).toBeLessThan(px[((n * n - 1) / 2) * 4] * 0.7);
	});
	it("has the natural fall-off of a lens: the fourth power of the cosine, about its axis and not about the frame's middle", () => {
		// 45 degrees off the axis a quarter of the light is left.
		expect(falloffAt(1, 1, 0)).toBeCloseTo(0.25, 12);
		expect(falloffAt(0.5, 1, 0)).toBeCloseTo(0.625, 12);
		expect(falloffAt(1, 0, 0)).toBe(1);
		const n = 33;
		const plane = flat(500, n * n);
		const lens = { ...NO_CHARACTER, falloff: 1 };
		const square = { ...camera, film: { widthMm: 24, heightMm: 24 }, ratio: 1, focalMm: 20 };
		const shown = (shiftMm?: [number, number]) =>
			finishPicture([plane, plane, plane], n, n, { ...square, shiftMm }, { ...finish, curve: "straight", lens });
		const even = shown();
		expect(even[0]).toBeLessThan(0.8 * even[((n * n - 1) / 2) * 4]);
		const light = (v: number) => decodeSrgb(v / 255);
		const half = (1 - 1 / n) * 0.6;
		expect(light(even[0]) / light(even[((n * n - 1) / 2) * 4])).toBeCloseTo(1 / (1 + 2 * half * half) ** 2, 1);
		// Shifted to the right, the left edge lies nearer to the axis than the right one.
		const shifted = shown([8, 0]);
		const row = ((n - 1) / 2) * n * 4;
		expect(shifted[row]).toBeGreaterThan(shifted[row + (n - 1) * 4]);
	});
	it("tints and leaves the brightness of greys alone", () => {
		const tint = tintOf([0.9, 0.8, 0.5]);
		expect(luminance(tint)).toBeCloseTo(1, 12);
		expect(tintOf([0, 0, 0])).toEqual([1, 1, 1]);
		const px = finishPicture(grey(400), 8, 8, camera, { ...finish, lens: { ...NO_CHARACTER, tint: [0.9, 0.8, 0.5] } });
		expect(px[0]).toBeGreaterThan(px[2] + 15);
	});
	it("stands NaN, negative and endless light as black or white, never as a fault", () => {
		const px = finishPicture(
			[Float32Array.from([Number.NaN, -5, Infinity, 1e30]), flat(1, 4), flat(1, 4)],
			4,
			1,
			camera,
			finish,
		);
		expect([px[0], px[4]]).toEqual([0, 0]);
		expect(px[12]).toBe(255);
	});
	it("proposes an exposure that puts a grey picture at middle grey and keeps bright skies", () => {
		const ev = proposeEv(flat(800));
		expect(800 * exposureFactor(ev, finish)).toBeGreaterThan(0.15);
		expect(800 * exposureFactor(ev, finish)).toBeLessThan(0.21);
		const backlit = Float32Array.from({ length: 100 }, (_, i) => (i < 80 ? 20 : 40_000));
		expect(proposeEv(backlit)).toBeGreaterThan(12);
		expect(proposeEv(new Float32Array(4))).toBe(14);
	});
});
