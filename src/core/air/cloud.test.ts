import { describe, expect, it } from "vitest";
import { CLOUD_TILE, cloudDepth, cloudOpacity, cloudPhase, cloudTile } from "./cloud.ts";

const mean = (a: Float32Array) => a.reduce((s, v) => s + v, 0) / a.length;

describe("high thin cloud", () => {
	it("is none for no cover, and more for more", () => {
		expect(mean(cloudTile(0, 1))).toBe(0);
		const [some, most] = [0.3, 0.9].map((c) => mean(cloudTile(c, 1)));
		expect(some).toBeGreaterThan(0);
		expect(most).toBeGreaterThan(2 * some);
		expect(cloudTile(0.5, 1)).not.toEqual(cloudTile(0.5, 2));
	});
	it("repeats without a seam", () => {
		const tile = cloudTile(0.7, 4);
		let across = 0;
		let inside = 0;
		for (let j = 0; j < CLOUD_TILE; j++) {
			across += Math.abs(tile[j * CLOUD_TILE] - tile[j * CLOUD_TILE + CLOUD_TILE - 1]);
			inside += Math.abs(tile[j * CLOUD_TILE + 200] - tile[j * CLOUD_TILE + 201]);
		}
		expect(across).toBeLessThan(4 * inside + 0.5);
	});
	it("covers nothing at the horizon and below, and never more than all", () => {
		const tile = cloudTile(1, 4);
		expect(cloudDepth(tile, 1, 0, 0)).toBe(0);
		expect(cloudDepth(tile, 0, -1, 0)).toBe(0);
		for (let i = 1; i < 50; i++)
			expect(cloudOpacity(cloudDepth(tile, Math.cos(i), 0.1 + i / 60, Math.sin(i)))).toBeLessThanOrEqual(1);
	});
	it("scatters all that it takes: its phase function integrates to 1", () => {
		let sum = 0;
		const n = 20_000;
		for (let i = 0; i < n; i++) sum += (cloudPhase(-1 + (2 * (i + 0.5)) / n) * 2 * Math.PI * 2) / n;
		expect(sum).toBeCloseTo(1, 3);
	});
});
