import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../../core/doc/defaults.ts";
import { blurMm, frameOfView } from "../../core/lens/camera.ts";
import { circleScale, LensBlur } from "./lensBlur.ts";

const lens = (focalMm: number, fStop: number, focusM: number) => ({ ...blankShot().camera, focalMm, fStop, focusM });
const opening = ({ focalMm, fStop, focusM }: ReturnType<typeof lens>) => ({ radiusM: focalMm / fStop / 2000, focusM });

describe("the circles of the working view", () => {
	it("are those of the lens, whatever it is and however far", () => {
		const n = (min: number, max: number) => fc.double({ min, max, noNaN: true });
		fc.assert(
			fc.property(n(8, 300), n(0.7, 22), n(0.3, 200), n(0.3, 5000), (focalMm, fStop, focusM, z) => {
				const camera = lens(focalMm, fStop, focusM);
				const width = 1000;
				const { tanX } = frameOfView(camera);
				const radius = circleScale(opening(camera), width, tanX) * Math.abs(1 / focusM - 1 / z);
				const { widthMm } = camera.film;
				return Math.abs(radius - ((blurMm(camera, z) / widthMm) * width) / 2) < 1e-6 * (1 + radius);
			}),
		);
	});

	it("are drawn where they can be seen, and not where all is sharp", () => {
		const { tanX } = frameOfView(lens(30, 8, 4));
		expect(LensBlur.shows(opening(lens(30, 22, 1.2)), 320, tanX, 0.8)).toBe(false);
		expect(LensBlur.shows(opening(lens(30, 2, 1.2)), 944, tanX, 0.8)).toBe(true);
		// All that is near is sharp, and what is far is not.
		expect(LensBlur.shows(opening(lens(85, 1.4, 0.8)), 944, frameOfView(lens(85, 1.4, 0.8)).tanX, 0.8)).toBe(true);
	});
});
