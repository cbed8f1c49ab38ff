import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { compile } from "../scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../scene/inputs.ts";
import { PartCache } from "../scene/partCache.ts";
import { STILL } from "../time/frames.ts";
import { seaMesh } from "./seaMesh.ts";
import { footOver } from "./testing.ts";
import { heightOfWaves, seaOf, wavesOf, windWaves } from "./waves.ts";

const sea = { windMs: 10, fetchM: 20_000 };
const amplitude = (w: { slope: number; lengthM: number }) => (w.slope * w.lengthM) / (2 * Math.PI);

describe("waves of wind", () => {
	it("are as high and as long as the law of the fetch has them", () => {
		for (const [windMs, fetchM] of [
			[5, 1000],
			[10, 20_000],
			[15, 200_000],
		]) {
			const { heightM, lengthM } = seaOf({ windMs, fetchM });
			// Hasselmann and others 1973: the variance grows with the fetch, whatever the spectrum's form.
			const law = 4 * Math.sqrt((1.6e-7 * windMs * windMs * fetchM) / 9.81);
			expect(heightM).toBeCloseTo(law, 9);
			const peak = 22 * (9.81 ** 2 / (windMs * fetchM)) ** (1 / 3);
			expect(lengthM).toBeCloseTo((2 * Math.PI * 9.81) / peak ** 2, 6);
		}
	});
	it("have together the energy of their sea, and run about their heading", () => {
		const waves = windWaves(sea, 3, 0, 140);
		const sum = waves.reduce((s, w) => s + 0.5 * amplitude(w) ** 2, 0);
		expect((4 * Math.sqrt(sum)) / seaOf(sea).heightM).toBeCloseTo(1, 1);
		for (const w of waves) {
			const heading = (Math.atan2(w.kx, -w.kz) * 180) / Math.PI;
			expect(Math.abs(((heading - 140 + 540) % 360) - 180)).toBeLessThan(76);
			expect(Math.hypot(w.kx, w.kz)).toBeCloseTo((2 * Math.PI) / w.lengthM, 6);
		}
	});
	it("run on as deep water has them, and are the same for the same seed", () => {
		const [now, then] = [windWaves(sea, 3, 0, 140), windWaves(sea, 3, 2, 140)];
		now.forEach((w, i) => {
			const k = (2 * Math.PI) / w.lengthM;
			expect((w.phase - then[i].phase) / 2).toBeCloseTo(Math.sqrt(9.81 * k + 7.28e-5 * k ** 3), 4);
		});
		expect(windWaves(sea, 3, 0, 140)).toEqual(now);
		expect(windWaves(sea, 4, 0, 140)).not.toEqual(now);
	});
	it("rise and fall about their level by their height", () => {
		const waves = windWaves(sea, 3, 0, 140);
		let [sum, squares] = [0, 0];
		const n = 4000;
		for (let i = 0; i < n; i++) {
			const h = heightOfWaves(waves, (i * 37.7) % 900, (i * 91.3) % 1100);
			sum += h;
			squares += h * h;
		}
		expect(sum / n).toBeCloseTo(0, 1);
		expect((4 * Math.sqrt(squares / n)) / seaOf(sea).heightM).toBeCloseTo(1, 0.7);
	});
	it("are ripples by their height where there is no wind", () => {
		const { water } = blankShot();
		expect(wavesOf(water, 1)).toHaveLength(14);
		expect(wavesOf({ ...water, windMs: 6 }, 1)).toHaveLength(32);
	});
});

describe("the sea's mesh", () => {
	const waves = windWaves(sea, 3, 0, 140);
	const ground = blankShot().ground;
	const foot = footOver(ground, 3, { x: 0, z: 0 });
	it("keeps to the waves that are shapes: by a quarter of a pixel in the mean square, 99 of 100 places by half of one", () => {
		// Of a frame of 640 pixels.
		const own = { ...foot, pixel: 3 * foot.pixel };
		const { positions, indices } = seaMesh(waves, 2, [own]);
		const shapes = waves.filter((w) => w.lengthM > 0.25);
		const off: number[] = [];
		for (let t = 0; t < indices.length; t += 3) {
			const corners = [0, 1, 2].map((n) => positions.subarray(3 * indices[t + n], 3 * indices[t + n] + 3));
			const [x, y, z] = [0, 1, 2].map((c) => (corners[0][c] + corners[1][c] + corners[2][c]) / 3);
			const far = Math.hypot(x, z);
			if (far > 400 || far < 2 || Math.abs(Math.atan2(x, -z)) > 0.4) continue;
			off.push(Math.abs(y - 2 - heightOfWaves(shapes, x, z)) / (own.pixel * far));
		}
		off.sort((p, q) => p - q);
		expect(off.length).toBeGreaterThan(10_000);
		expect(Math.sqrt(off.reduce((s, v) => s + v * v, 0) / off.length)).toBeLessThan(0.25);
		expect(off[Math.floor(0.99 * off.length)]).toBeLessThan(0.5);
		expect(indices.length / 3).toBeLessThan(150_000);
	});
	it("stands in the scene for pictures alone, and not while something is in hand", () => {
		const doc = { ...blankShot(), pieces: [] };
		doc.water = { ...doc.water, on: true, levelM: 1, windMs: 8, fetchM: 5000 };
		const cache = new PartCache();
		const { root } = compile(doc, STILL, NO_BLOBS, NO_MAKERS, cache);
		expect(root.water).toMatchObject({ levelM: 1, meshed: true });
		expect(root.draws.filter((d) => d.traced)).toHaveLength(1);
		const still = compile({ ...doc, water: { ...doc.water, windMs: 0 } }, STILL, NO_BLOBS, NO_MAKERS, cache).root;
		expect(still.water?.meshed).toBeUndefined();
		expect(still.draws.some((d) => d.traced)).toBe(false);
	});
});
