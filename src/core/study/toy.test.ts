import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { blurPx, toyLook } from "./toy.ts";

const lens = (focalMm: number, fStop: number, focusM: number | null) => ({
	...blankShot().camera,
	focalMm,
	fStop,
	focusM,
});

describe("blur in pixels", () => {
	it("is that of the trade's example: 24 mm at f/1.2, focused at 3 m, 8.6 px far off in a picture 1920 wide", () => {
		expect(blurPx(lens(24, 1.2, 3), 1e6, 1920)).toBeCloseTo(8.53, 1);
	});
});

describe("a place that looks like a toy", () => {
	it("is told with how much smaller it seems, and with what takes that away", () => {
		const open = lens(85, 1.4, 30);
		const toy = toyLook(open, 8, 200);
		expect(toy?.smaller).toBeCloseTo(85 / 1.4 / 4, 6);
		expect(toy?.blurPx).toBeGreaterThan(4);
		const closed = { ...open, fStop: toy?.fStop as number };
		expect(Math.max(blurPx(closed, 8, 1920), blurPx(closed, 200, 1920))).toBeLessThanOrEqual(1.5);
		expect(toyLook(closed, 8, 200)).toBeNull();
	});
	it("is taken away by the focus alone where that suffices", () => {
		const toy = toyLook(lens(35, 4, 3), 7, 400);
		expect(toy?.focusM).not.toBeNull();
		const focused = lens(35, 4, toy?.focusM as number);
		expect(Math.max(blurPx(focused, 7, 1920), blurPx(focused, 400, 1920))).toBeLessThanOrEqual(1.5);
	});
	it("is neither a small place, nor one that is sharp, nor a small thing before a large place", () => {
		expect(toyLook(lens(50, 1.2, 2.5), 1, 8)).toBeNull();
		expect(toyLook(lens(26, 8, null), 3, 5000)).toBeNull();
		expect(toyLook(lens(85, 1.4, 0.8), 0.7, 300)).toBeNull();
	});
});
