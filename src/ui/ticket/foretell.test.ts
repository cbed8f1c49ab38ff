import { describe, expect, it } from "vitest";
import { foretell, readyBy } from "./foretell.ts";

describe("the time of a print, before it is ordered", () => {
	it("is its samples at the measured rate", () => {
		expect(foretell({ samples: 64, noisePercent: null }, 1e6, 2e5, null)).toEqual({ likely: 320, most: 320 });
	});
	it("is shorter when the proof tells that its noise is reached before", () => {
		// 8 % at 16 samples is 4 % at 64.
		const t = foretell({ samples: 256, noisePercent: 4 }, 1e6, 2e5, { samples: 16, noise: 0.08 });
		expect(t.most).toBe(1280);
		expect(t.likely).toBeCloseTo(320, 6);
	});
	it("never goes below the first place where noise is looked at, nor above all samples", () => {
		expect(foretell({ samples: 256, noisePercent: 50 }, 1000, 1000, { samples: 16, noise: 0.08 }).likely).toBe(32);
		expect(foretell({ samples: 64, noisePercent: 0.1 }, 1000, 1000, { samples: 16, noise: 0.5 }).likely).toBe(64);
	});
	it("is that of all samples while the proof cannot tell its noise", () => {
		expect(foretell({ samples: 64, noisePercent: 2 }, 1e6, 1e6, null).likely).toBe(64);
	});
});

describe("when a waiting print will be done", () => {
	const now = 1_000_000;
	const seconds = (print: { samplesLeft: number; samplesAhead: number }, rate: number) => (readyBy(print, rate, now).getTime() - now) / 1000;
	it("is after its own samples and those of all before it", () => {
		expect(seconds({ samplesLeft: 32e6, samplesAhead: 0 }, 1e6)).toBe(32);
		expect(seconds({ samplesLeft: 32e6, samplesAhead: 64e6 }, 1e6)).toBe(96);
		expect(seconds({ samplesLeft: 32e6, samplesAhead: 64e6 }, 4e6)).toBe(24);
	});
	it("is now when nothing is left", () => {
		expect(seconds({ samplesLeft: 0, samplesAhead: 0 }, 1e6)).toBe(0);
	});
});
