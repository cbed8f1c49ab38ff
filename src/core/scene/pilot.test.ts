import { describe, expect, it } from "vitest";
import { CLEANING, fallOf, foretell, pilotTiles, rateOf, samplesNeeded } from "./pilot.ts";

describe("the tiles of a pilot", () => {
	it("lie in the part, spread over all of it", () => {
		const part = { x: 100, y: 50, width: 640, height: 300 };
		const tiles = pilotTiles(part);
		expect(tiles).toHaveLength(48);
		for (const t of tiles) {
			expect(t.x).toBeGreaterThanOrEqual(100);
			expect(t.y).toBeGreaterThanOrEqual(50);
			expect(t.x + t.width).toBeLessThanOrEqual(740);
			expect(t.y + t.height).toBeLessThanOrEqual(350);
		}
		expect(new Set(tiles.map((t) => t.x)).size).toBe(8);
		expect(new Set(tiles.map((t) => t.y)).size).toBe(6);
	});
	it("fit into a part of a few pixels", () => {
		for (const t of pilotTiles({ x: 7, y: 3, width: 2, height: 1 }))
			expect(t).toEqual({ x: expect.any(Number), y: 3, width: 2, height: 1 });
	});
});

describe("samples until a noise", () => {
	it("grow with its square, in the steps at which it is looked at", () => {
		expect(samplesNeeded(0.08, 16, 4, 4096)).toBe(64);
		expect(samplesNeeded(0.09, 16, 4, 4096)).toBe(128);
		expect(samplesNeeded(0.001, 16, 4, 4096)).toBe(32);
		expect(samplesNeeded(0.5, 16, 1, 4096)).toBe(4096);
		expect(samplesNeeded(0.3, 16, 4, 4096)).toBe(1024);
	});
});

describe("how noise falls", () => {
	it("is by the root where it was so between two looks, slower where it was slower, and never faster", () => {
		expect(fallOf([0.2, 0.4], 4, [0.1, 0.2], 16)).toBeCloseTo(0.5, 12);
		expect(fallOf([0.2, 0.2], 4, [0.12, 0.12], 16)).toBeCloseTo(Math.log(0.2 / 0.12) / Math.log(4), 12);
		expect(fallOf([0.4], 4, [0.01], 16)).toBe(0.5);
		expect(fallOf([0.2], 4, [0.21], 16)).toBe(0.3);
		expect(fallOf([0], 4, [0], 16)).toBe(0.5);
	});
	it("asks for more samples the slower it is", () => {
		const needed = [0.5, 0.4, 0.3].map((fall) => samplesNeeded(0.08, 16, 4, 1 << 16, fall));
		expect(needed[0]).toBe(64);
		expect(needed[1]).toBeGreaterThan(needed[0]);
		expect(needed[2]).toBeGreaterThanOrEqual(needed[1]);
	});
});

describe("the time of a print, before it is ordered", () => {
	const seconds = (pixels: number, samples: number, rate: number) => (pixels * (samples + CLEANING)) / rate;
	it("is that of its samples and of its cleaning at the measured rate", () => {
		expect(foretell({ samples: 64, noisePercent: null }, 1e6, 2e5, null)).toEqual({
			likely: seconds(1e6, 64, 2e5),
			most: seconds(1e6, 64, 2e5),
		});
	});
	it("is shorter when noise is reached before, tile by tile", () => {
		const t = foretell({ samples: 256, noisePercent: 4 }, 1e6, 2e5, { samples: 16, noises: [0.08, 0.01] });
		expect(t.most).toBeCloseTo(seconds(1e6, 256, 2e5), 9);
		expect(t.likely).toBeCloseTo(seconds(1e6, (64 + 32) / 2, 2e5), 9);
	});
	it("is that of all samples while the noise is not known", () => {
		const t = foretell({ samples: 64, noisePercent: 2 }, 1e6, 1e6, null);
		expect(t.likely).toBe(t.most);
	});
	it("follows from a pilot's threads", () => {
		expect(rateOf({ msPerSample: 0.01, threads: 2, noises: [], fall: 0.5 })).toBe(200_000);
	});
});
