import { describe, expect, it } from "vitest";
import { proofShare, swiftScale } from "./View.tsx";

describe("the pixels that are drawn while things change", () => {
	it("are all of them on a machine that is quick enough, and half of their sides before it is known", () => {
		expect(swiftScale(0)).toBe(0.5);
		for (const ms of [4, 16, 60]) expect(swiftScale(ms)).toBe(1);
	});
	it("are so many on a slow one that a frame takes about as long as it may, and never fewer than a sixteenth", () => {
		expect(swiftScale(240)).toBe(0.5);
		expect(swiftScale(2400)).toBe(0.25);
		expect(swiftScale(1e6)).toBe(0.25);
		for (let ms = 61; ms < 5000; ms += 37) {
			const s = swiftScale(ms);
			expect(Number.isInteger(s * 8)).toBe(true);
			expect(s).toBeGreaterThanOrEqual(0.25);
			expect(s).toBeLessThan(1);
		}
	});
});

describe("the share of a proof in the frame", () => {
	const state = (samples: number, clean: boolean, done = false) => ({ samples, clean, done, coarse: false });
	it("is all of it for a clean proof over a view that is drawn with few pixels", () => {
		expect(proofShare(state(2, true), true)).toBe(1);
		expect(proofShare(state(2, false), true)).toBeCloseTo(2 / 7);
	});
	it("grows with its samples, faster once its noise is out, and is whole when it is done", () => {
		expect(proofShare(state(1, false))).toBeCloseTo(1 / 6);
		expect(proofShare(state(4, true))).toBeCloseTo(0.8);
		expect(proofShare(state(64, true))).toBeGreaterThan(0.98);
		expect(proofShare(state(8, true, true))).toBe(1);
		expect(proofShare(state(128, false))).toBe(1);
		// A small clean one stays as strong while the frame's own pixels begin.
		for (const samples of [0, 1, 8]) expect(proofShare({ ...state(samples, true), coarse: true })).toBe(0.8);
		let before = 0;
		for (let n = 1; n < 128; n *= 2) {
			expect(proofShare(state(n, false))).toBeGreaterThan(before);
			before = proofShare(state(n, false));
		}
	});
});
