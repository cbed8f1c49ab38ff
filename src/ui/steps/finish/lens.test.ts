import { describe, expect, it } from "vitest";
import { sourceOf } from "../../../core/lens/character.ts";
import { fringePx } from "./LensLines.tsx";

describe("the colour fringe in pixels", () => {
	it("is how far red and blue lie apart in the corners of the print", () => {
		const size = { width: 1920, height: 1080 };
		for (const fringe of [0.002, -0.004]) {
			const [r, b] = [0, 2].map((channel) => sourceOf(0, 0, channel, { bend: 0, fringe }, size));
			const apart = Math.hypot(r[0] - b[0], r[1] - b[1]);
			expect(fringePx(fringe, 1920, 16 / 9)).toBeCloseTo(apart, 1);
		}
		expect(fringePx(0, 1920, 2)).toBe(0);
	});
});
