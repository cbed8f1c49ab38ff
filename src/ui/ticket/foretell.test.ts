import { describe, expect, it } from "vitest";
import type { PrintLine } from "../../core/doc/records.ts";
import { foretell, readyTimes } from "./foretell.ts";

const line = (id: string, over: Partial<PrintLine> = {}): PrintLine => ({
	id,
	shotId: "s",
	revision: 1,
	width: 1000,
	height: 500,
	samples: 64,
	seed: 1,
	noisePercent: null,
	state: "queued",
	message: null,
	createdAt: `2026-01-01T00:00:0${id}.000Z`,
	finishedAt: null,
	exr: null,
	thumbnail: null,
	pixelsSha256: null,
	ev100: 0,
	rays: 0,
	seconds: null,
	done: 0,
	secondsLeft: null,
	...over,
});

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

describe("when prints will be done", () => {
	const now = 1_000_000;
	const seconds = (m: Map<string, Date>) => Object.fromEntries([...m].map(([k, v]) => [k, (v.getTime() - now) / 1000]));
	it("follows the order in which they were ordered, each after the one before", () => {
		const prints = [line("3"), line("2"), line("1", { state: "tracing", secondsLeft: 40, done: 0.5 })];
		expect(seconds(readyTimes(prints, 1e6, now))).toEqual({ 1: 40, 2: 72, 3: 104 });
	});
	it("leaves out what is done, paused or cancelled", () => {
		const prints = [line("1", { state: "done" }), line("2", { state: "paused" }), line("3", { state: "cancelled" }), line("4")];
		expect(seconds(readyTimes(prints, 1e6, now))).toEqual({ 4: 32 });
	});
	it("ends where nothing is known", () => {
		expect(readyTimes([line("1"), line("2")], null, now).size).toBe(0);
		expect(seconds(readyTimes([line("1", { state: "tracing", secondsLeft: 5 }), line("2")], null, now))).toEqual({ 1: 5 });
	});
	it("counts what is traced already", () => {
		expect(seconds(readyTimes([line("1", { done: 0.75 })], 1e6, now))).toEqual({ 1: 8 });
	});
});
