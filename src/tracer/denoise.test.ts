import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../core/doc/defaults.ts";
import { randomStream } from "../core/maths/hash.ts";
import { compile } from "../core/scene/compile.ts";
import { emptyPicture, type Picture } from "../core/scene/picture.ts";
import { cleanHere } from "./clean.ts";
import {
	BAND_COLUMNS,
	BAND_ROWS,
	bandsOf,
	cutBand,
	denoiseBand,
	type Planes,
	PRINT_REACH,
	PROOF_REACH,
	releaseRoom,
	reserveRoom,
	settle,
} from "./denoise.ts";
import { traceAtOnce, tracerForTest } from "./testing.ts";

const SAMPLES = 32;

/** A picture of `truth` as samples with noise would give it: both halves, their spread, and plain surfaces. */
function noisy(width: number, height: number, truth: (x: number, y: number) => number, sd: number, seed = 1): Picture {
	const random = randomStream(seed);
	const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
	const p = emptyPicture(width, height);
	p.samples = SAMPLES;
	for (let i = 0; i < width * height; i++) {
		const value = truth(i % width, Math.floor(i / width));
		const [even, odd] = [value + sd * Math.SQRT2 * normal(), value + sd * Math.SQRT2 * normal()];
		for (let c = 0; c < 3; c++) {
			p.rgb[c][i] = (even + odd) / 2;
			p.halves[c][i] = (odd - even) / 2;
			p.albedo[c][i] = 0.5;
		}
		p.error[i] = sd;
		p.counts[i] = SAMPLES;
		p.normal[1][i] = 1;
		p.nearness[i] = 0.1;
	}
	return p;
}

const without = async (p: Picture, reach?: number): Promise<Planes> => {
	const { memory, kernel } = tracerForTest();
	return (await cleanHere(kernel, memory, p, { exposure: 1, reach: reach ?? PRINT_REACH })).rgb;
};

const rms = (plane: Float32Array, truth: (i: number) => number): number =>
	Math.sqrt(plane.reduce((s, v, i) => s + (v - truth(i)) ** 2, 0) / plane.length);

describe("taking the noise out", () => {
	it("of an even surface leaves a tenth of it, and no more light or less", async () => {
		const p = noisy(90, 70, () => 100, 10);
		const [r] = await without(p);
		expect(rms(p.rgb[0], () => 100)).toBeGreaterThan(9);
		expect(rms(r, () => 100)).toBeLessThan(1.05);
		const mean = (a: Float32Array) => a.reduce((s, v) => s + v, 0) / a.length;
		expect(Math.abs(mean(r) - mean(p.rgb[0]))).toBeLessThan(0.3);
	});

	it("leaves a picture without noise as it is", async () => {
		const p = noisy(64, 64, (x, y) => 50 + 40 * Math.sin(x * 0.4) * Math.cos(y * 0.23), 0);
		const [r, g, b] = await without(p);
		r.forEach((v, i) => expect(Math.abs(v - p.rgb[0][i])).toBeLessThan(0.02));
		expect(g).toEqual(r);
		expect(b).toEqual(r);
	});

	it("keeps an edge of light where nothing but the light tells it", async () => {
		const edge = (x: number) => (x < 40 ? 20 : 200);
		const p = noisy(80, 64, edge, 6);
		const [r] = await without(p);
		expect(rms(r, (i) => edge(i % 80))).toBeLessThan(1.2);
		for (let y = 0; y < 64; y++) {
			expect(r[y * 80 + 39]).toBeLessThan(30);
			expect(r[y * 80 + 40]).toBeGreaterThan(190);
		}
	});

	it("does not let a flame's noise shine into the dark beside it", async () => {
		const flame = (x: number, y: number) => (Math.hypot(x - 32, y - 24) < 4 ? 40_000 : 1);
		const p = noisy(64, 48, flame, 0.1, 9);
		const random = randomStream(4);
		for (let i = 0; i < 64 * 48; i++) {
			if (flame(i % 64, Math.floor(i / 64)) === 1) continue;
			p.error[i] = 30_000;
			for (let c = 0; c < 3; c++) p.halves[c][i] = 30_000 * (random() - 0.5);
		}
		const [r] = await without(p);
		r.forEach((v, i) => {
			if (Math.hypot((i % 64) - 32, Math.floor(i / 64) - 24) > 5.5) expect(v).toBeLessThan(1.5);
		});
	});

	it("does not mix surfaces of another colour, facing or distance, however deep the noise is over them", async () => {
		for (const change of ["albedo", "normal", "nearness"] as const) {
			const p = noisy(64, 48, (x) => (x < 32 ? 100 : 120), 40, 5);
			for (let i = 0; i < 64 * 48; i++) {
				if (i % 64 < 32) continue;
				if (change === "albedo") for (let c = 0; c < 3; c++) p.albedo[c][i] = 0.8;
				else if (change === "normal") [p.normal[0][i], p.normal[1][i]] = [1, 0];
				else p.nearness[i] = 0.05;
			}
			const [r] = await without(p);
			const mean = (from: number, to: number) => {
				let s = 0;
				for (let y = 0; y < 48; y++) for (let x = from; x < to; x++) s += r[y * 64 + x];
				return s / 48 / (to - from);
			};
			expect(Math.abs(mean(28, 32) - 100)).toBeLessThan(5);
			expect(Math.abs(mean(32, 36) - 120)).toBeLessThan(5);
		}
	});

	it("spreads a single bright sample over its neighbours instead of leaving a speck", async () => {
		const p = noisy(60, 60, () => 100, 4);
		const at = 30 * 60 + 30;
		const X = 32_000;
		for (let c = 0; c < 3; c++) {
			p.rgb[c][at] += X / SAMPLES;
			p.halves[c][at] += X / SAMPLES;
		}
		p.error[at] = X / SAMPLES;
		const [r] = await without(p);
		expect(r[at]).toBeLessThan(120);
	});

	it("works in bands that need nothing but themselves, in any order", async () => {
		const p = noisy(50, BAND_ROWS * 2 + 9, (x, y) => 100 + x + y, 12);
		const { memory, kernel } = tracerForTest();
		const room = reserveRoom(memory, p.width);
		const before = memory.used;
		const all = Array.from({ length: 6 }, () => new Float32Array(p.width * p.height));
		for (const tile of bandsOf(p.width, p.height))
			denoiseBand(
				kernel,
				memory.memory.buffer,
				room,
				cutBand(p, tile, PROOF_REACH, memory.memory.buffer, room),
			)?.forEach((plane, c) => {
				all[c].set(plane, tile.y * p.width);
			});
		for (const tile of bandsOf(p.width, p.height).reverse()) {
			const band = denoiseBand(
				kernel,
				memory.memory.buffer,
				room,
				cutBand(p, tile, PROOF_REACH, memory.memory.buffer, room),
			) as Float32Array[];
			band.forEach((plane, c) =>
				expect(plane).toEqual(all[c].subarray(tile.y * p.width, tile.y * p.width + plane.length)),
			);
		}
		// Columns may be cut, too, and are in wide pictures.
		for (const [x, width] of [
			[0, 13],
			[13, 30],
			[43, 7],
		]) {
			const band = denoiseBand(
				kernel,
				memory.memory.buffer,
				room,
				cutBand(p, { x, y: 20, width, height: 40 }, PROOF_REACH, memory.memory.buffer, room),
			) as Float32Array[];
			for (let r = 0; r < 40; r++)
				expect(band[0].subarray(r * width, (r + 1) * width)).toEqual(
					all[0].subarray((20 + r) * 50 + x, (20 + r) * 50 + x + width),
				);
		}
		expect(bandsOf(BAND_COLUMNS + 10, 70)).toHaveLength(4);
		// Threads have as many each, of as many rows.
		for (const [rows, threads, bands] of [
			[184, 2, 4],
			[50, 2, 2],
			[130, 1, 3],
			[1080, 4, 20],
			[100, 16, 7],
		]) {
			const high = bandsOf(300, rows, threads).map((band) => band.height);
			expect(high).toHaveLength(bands);
			expect(high.reduce((sum, h) => sum + h, 0)).toBe(rows);
			expect(Math.max(...high)).toBeLessThanOrEqual(BAND_ROWS);
			if (rows / threads > 16) expect(high[0] - high[bands - 1]).toBeLessThan(bands);
		}
		memory.u32[room.abort >> 2] = 1;
		expect(
			denoiseBand(
				kernel,
				memory.memory.buffer,
				room,
				cutBand(p, bandsOf(50, 10)[0], PROOF_REACH, memory.memory.buffer, room),
			),
		).toBeNull();
		expect(memory.used).toBe(before);
		releaseRoom(memory, room);
	});

	it("goes back to what was traced where the other half finds the averages wrong, and nowhere else", () => {
		const [width, height] = [64, 48];
		// A figure that the averages have smeared away, as they do with mirror images that no surface tells.
		const figure = (x: number, y: number) => (Math.abs(x - 32) < 4 && Math.abs(y - 24) < 6 ? 60 : 20);
		const p = noisy(width, height, figure, 3, 11);
		const smeared = Array.from({ length: 6 }, () => new Float32Array(width * height).fill(20));
		const [r] = settle(p, smeared, 0, 0, height);
		const inside = (i: number) => figure(i % width, Math.floor(i / width)) === 60;
		const error = (of: Float32Array, where: (i: number) => boolean) => {
			const off = [...of].flatMap((v, i) => (where(i) ? [(v - figure(i % width, Math.floor(i / width))) ** 2] : []));
			return Math.sqrt(off.reduce((a, b) => a + b, 0) / off.length);
		};
		expect(error(smeared[0], inside)).toBe(40);
		expect(error(r, inside)).toBeLessThan(5);
		// Two pixels away from it the averages are right and stand; noise alone brings hardly any of it back.
		const away = (i: number) => Math.abs((i % width) - 32) > 6 || Math.abs(Math.floor(i / width) - 24) > 8;
		expect(error(p.rgb[0], away)).toBeGreaterThan(2.7);
		expect(error(r, away)).toBeLessThan(0.4);
	});

	it("takes pictures of one pixel and of one row", async () => {
		for (const [w, h] of [
			[1, 1],
			[33, 1],
			[1, 40],
		]) {
			const [r] = await without(noisy(w, h, () => 10, 0));
			expect(r).toHaveLength(w * h);
			r.forEach((v) => expect(v).toBeCloseTo(10, 3));
		}
	});

	it("brings a traced picture of few samples at least three times nearer to the truth", async () => {
		const doc = blankShot();
		doc.pieces.push(newPiece("ball", "sphere", { position: [0.5, 0, -6], size: [2, 2, 2] }));
		doc.air.fog = { ...doc.air.fog, on: true, visibilityM: 300, skyClear: false };
		const scene = compile(doc);
		const size = { width: 96, height: 52, seed: 3 };
		const truth = traceAtOnce(scene, { ...size, seed: 9 }, 256);
		const few = traceAtOnce(scene, size, 16);
		const clean = await without(few);
		const off = (p: Planes) => {
			let s = 0;
			for (let c = 0; c < 3; c++)
				for (let i = 0; i < truth.rgb[c].length; i++) s += ((p[c][i] - truth.rgb[c][i]) / (truth.rgb[c][i] + 10)) ** 2;
			return s;
		};
		expect(off(few.rgb) / off(clean)).toBeGreaterThan(3);
	});
});
