import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { contrastKept, fogDepth, fogShape, litFogShape, visibilityForContrast } from "./fog.ts";

const fog = { ...blankShot().air.fog, on: true, visibilityM: 4000, belowM: 40 };

describe("height fog", () => {
	it("agrees with quadrature along slanted rays within 1e-6 of transmittance", () => {
		const shape = fogShape(fog);
		for (const [ya, yb, L] of [
			[1.6, 1.6, 900],
			[1.6, 300, 5000],
			[-3, 20, 80],
			[80, -10, 400],
			[1.6, 1.60001, 3000],
			[5, 5.3, 4000],
		]) {
			const n = 400_000;
			let sum = 0;
			for (let i = 0; i < n; i++) {
				const y = ya + ((yb - ya) * (i + 0.5)) / n;
				sum += shape.sigma0 * Math.min(1, Math.exp(-(y - shape.y0) / shape.scaleM));
			}
			expect(Math.abs(Math.exp((-sum * L) / n) - Math.exp(-fogDepth(shape, ya, yb, L)))).toBeLessThan(1e-6);
		}
	});
	it("keeps 2 % at the visibility and 5 % of its density at the stated height", () => {
		expect(contrastKept(fogShape({ ...fog, belowM: null }), 0, 0, 4000)).toBeCloseTo(0.02, 4);
		const shape = fogShape(fog);
		expect(fogDepth(shape, 40, 40, 1) / fogDepth(shape, 0, 0, 1)).toBeCloseTo(0.05, 10);
	});
	it("lets light in from above where it fills all the air under a sky that is not clear", () => {
		const all = { ...fog, belowM: null, skyClear: false };
		const lit = litFogShape(all, 100);
		// Even about the lens, and left by the sun of the zenith with most of its light.
		expect(fogDepth(lit, 100, 100, 4000)).toBeCloseTo(fogDepth(fogShape(all), 100, 100, 4000), 10);
		const left = Math.exp(-fogDepth(lit, 100, 1e5, 1e5 - 100));
		expect(left).toBeGreaterThan(0.7);
		expect(left).toBeLessThan(0.9);
		expect(litFogShape({ ...all, skyClear: true }, 100)).toEqual(fogShape(all));
		expect(litFogShape({ ...fog, skyClear: false }, 100)).toEqual(fogShape(fog));
	});
	it("is set by the contrast that a piece keeps", () => {
		const visibilityM = visibilityForContrast(fog, 1.6, 60, 5000, 0.2);
		expect(contrastKept(fogShape({ ...fog, visibilityM }), 1.6, 60, 5000)).toBeCloseTo(0.2, 10);
	});
});
