import { describe, expect, it } from "vitest";
import { ripples } from "../ground/ripples.ts";
import { ALBEDO_SIZE, albedoTables } from "./albedo.ts";

describe("directional albedo", () => {
	const t = albedoTables();
	const n = ALBEDO_SIZE;
	it("never gives more than it gets and loses more the rougher it is", () => {
		for (let j = 0; j < n; j++)
			for (let i = 0; i < n; i++) {
				const e = t[(j * n + i) * 2] + t[(j * n + i) * 2 + 1];
				expect(e).toBeGreaterThan(0.3);
				expect(e).toBeLessThanOrEqual(1.0001);
			}
		const straight = (j: number) => t[(j * n + n - 1) * 2] + t[(j * n + n - 1) * 2 + 1];
		expect(straight(0)).toBeCloseTo(1, 3);
		expect(straight(n - 1)).toBeLessThan(straight(10));
	});
	it("has a mean for a plain dielectric of a few percent", () => {
		for (let j = 0; j < n; j++) {
			expect(t[n * n * 2 + j]).toBeGreaterThan(0.02);
			expect(t[n * n * 2 + j]).toBeLessThan(0.12);
		}
	});
});

describe("ripples", () => {
	it("have the height that is asked, trough to crest, and none for none", () => {
		const waves = ripples(12, 3);
		const variance = waves.reduce((s, w) => s + 0.5 * (w.slope / Math.hypot(w.kx, w.kz)) ** 2, 0);
		expect(Math.sqrt(variance) * 6000).toBeCloseTo(12, 6);
		expect(ripples(0, 3)).toEqual([]);
		expect(ripples(12, 3)).toEqual(waves);
	});
});
