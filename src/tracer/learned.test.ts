import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { fromHalf } from "../core/formats/exr.ts";
import { randomStream } from "../core/maths/hash.ts";
import { emptyPicture, type Picture, type Tile } from "../core/scene/picture.ts";
import { Cleaner, cleanHere, doCleanJob } from "./clean.ts";
import type { Planes } from "./denoise.ts";
import * as L from "./kernel/layout.ts";
import {
	cutPart,
	LAYERS,
	layersOf,
	layWeights,
	learnPart,
	partsOf,
	releaseLearned,
	reserveLearned,
} from "./learned.ts";
import { makeKernel, TracerMemory } from "./memory.ts";
import { kernelModule, tracerForTest, weightsForTest } from "./testing.ts";

/** The example that lies with the weights: planes of 44 × 40 pixels of eight samples, and what the network in Python makes of them. */
const [WIDTH, HEIGHT, SAMPLES] = [44, 40, 8];
const PLANES = L.N_PLANES - 1;

function example(): { picture: Picture; averaged: Planes; made: Float32Array[] } {
	const { buffer } = Uint8Array.from(readFileSync(join(process.cwd(), "train/weights/clean.example")));
	const size = WIDTH * HEIGHT;
	const halves = new Uint16Array(buffer, 0, PLANES * size);
	const plane = (k: number) => Float32Array.from(halves.subarray(k * size, (k + 1) * size), fromHalf);
	const three = (k: number): Planes => [plane(k), plane(k + 1), plane(k + 2)];
	const picture = emptyPicture(WIDTH, HEIGHT);
	const [even, odd] = [three(0), three(3)];
	for (let c = 0; c < 3; c++) {
		picture.rgb[c] = even[c].map((v, i) => (v + odd[c][i]) / 2);
		picture.halves[c] = even[c].map((v, i) => (odd[c][i] - v) / 2);
	}
	picture.albedo = three(L.N_ALBEDO);
	picture.normal = three(L.N_NORMAL);
	picture.error = plane(L.N_ERROR);
	picture.nearness = plane(L.N_NEARNESS);
	picture.masks[0].cover = plane(L.N_COVER);
	picture.counts.fill(SAMPLES);
	const out = new Float32Array(buffer, PLANES * size * 2, 3 * size);
	return {
		picture,
		averaged: three(L.N_FILTERED),
		made: [0, 1, 2].map((c) => out.subarray(c * size, (c + 1) * size)),
	};
}

/** What the filter makes of a picture and its averages, tile by tile. */
function learnedOf(picture: Picture, averaged: Planes, tiles: Tile[], exposure = 1): Float32Array[] {
	const { memory, kernel } = tracerForTest();
	const room = reserveLearned(kernel, memory, memory.put(layWeights(weightsForTest())), picture);
	const out = Array.from({ length: 3 + 3 * layersOf(picture).length }, () => new Float32Array(picture.rgb[0].length));
	for (const tile of tiles) {
		const part = cutPart(picture, averaged, 0, tile, exposure, memory.memory.buffer, room);
		learnPart(kernel, memory.memory.buffer, room, part)?.forEach((plane, c) => {
			for (let r = 0; r < tile.height; r++)
				out[c].set(plane.subarray(r * tile.width, (r + 1) * tile.width), (tile.y + r) * picture.width + tile.x);
		});
	}
	releaseLearned(memory, room);
	return out;
}

const wholeOf = ({ width, height }: Picture): Tile[] => partsOf(width, { y: 0, rows: height });

/** A lit wall with a dark thing before it, with noise; the sun's light and a lamp's as layers. */
function lit(width: number, height: number, noise: number, lights: string[] = []): Picture {
	const next = randomStream(4);
	const p = emptyPicture(width, height, lights);
	for (let i = 0; i < width * height; i++) {
		const thing = i % width > width / 2 && i / width > height / 3;
		for (let c = 0; c < 3; c++) {
			const light = (thing ? 0.05 : 0.4) * (1 + 0.1 * c);
			const [even, odd] = [light * (1 + noise * (next() - 0.5)), light * (1 + noise * (next() - 0.5))];
			p.rgb[c][i] = (even + odd) / 2;
			p.halves[c][i] = (odd - even) / 2;
			p.albedo[c][i] = thing ? 0.1 : 0.6;
			for (const [k, { rgb }] of (p.light?.lights ?? []).entries()) rgb[c][i] = p.rgb[c][i] * (k === 0 ? 0.7 : 0.3);
			if (p.light) p.light.fog[c][i] = 0.1 * p.rgb[c][i];
		}
		p.error[i] = noise * 0.1 * p.rgb[1][i];
		p.normal[2][i] = 1;
		p.nearness[i] = thing ? 0.3 : 0.1;
		p.masks[0].cover[i] = 1;
		p.counts[i] = SAMPLES;
	}
	return p;
}

/** A bare sky of what both halves have met, pixel by pixel, and of a colour by what they have. */
function skyOf(halves: (i: number) => [even: number, odd: number], colour: (mean: number) => number): Picture {
	const p = emptyPicture(64, 48);
	for (let i = 0; i < 64 * 48; i++) {
		const [even, odd] = halves(i);
		for (let c = 0; c < 3; c++) {
			p.rgb[c][i] = (even + odd) / 2;
			p.halves[c][i] = (odd - even) / 2;
			p.albedo[c][i] = colour(p.rgb[c][i]);
		}
		p.error[i] = Math.abs(even - odd) / 2;
		p.nearness[i] = 1e-10;
		p.masks[0].cover[i] = 1;
		p.counts[i] = SAMPLES;
	}
	return p;
}

describe("the learned filter", () => {
	it("makes what the network has made where it has learned", () => {
		const { picture, averaged, made } = example();
		learnedOf(picture, averaged, wholeOf(picture)).forEach((plane, c) => {
			const off = plane.map((v, i) => (v - made[c][i]) / (made[c][i] + 0.01));
			expect(Math.max(...off.map(Math.abs))).toBeLessThan(4e-3);
			expect(Math.sqrt(off.reduce((sum, v) => sum + v * v, 0) / off.length)).toBeLessThan(6e-4);
		});
	});

	it("has steps enough for all that training has met", () => {
		const { largest } = JSON.parse(readFileSync(join(process.cwd(), "train/weights/clean.json"), "utf8"));
		for (const { name, seen } of LAYERS) expect(largest[name] * seen, name).toBeLessThan(L.N_MOST);
		// What is added to what comes from a smaller size has the same steps.
		const of = (name: string) => LAYERS.find((l) => l.name === name);
		expect(of("toHalf")?.steps).toBe(of("half2")?.steps);
		expect(of("toFull")?.steps).toBe(of("full2")?.steps);
		const next = ["full2", "half1", "half2", "quarter1", "quarter2", "quarter3", "toHalf"];
		for (const [i, name] of next.entries()) expect(of(name)?.seen).toBe(LAYERS[i].steps);
	});

	it("is not led astray by light beyond all that training has met", () => {
		const p = lit(64, 48, 1);
		for (const plane of [...p.rgb, ...p.halves, p.error]) for (let i = 0; i < plane.length; i += 97) plane[i] *= 1e7;
		for (const plane of p.albedo) plane.fill(1e6);
		for (const [c, plane] of learnedOf(p, p.rgb, wholeOf(p)).entries()) {
			expect(plane.every((v) => v >= 0 && Number.isFinite(v))).toBe(true);
			expect(Math.max(...plane)).toBeLessThanOrEqual(1.0001 * Math.max(...p.rgb[c]));
		}
	});

	it("gives no sun to a sky beside its disc that has none", () => {
		const next = randomStream(6);
		const [sky, sun] = [2, 60_000];
		const bare: number[] = [];
		const p = skyOf(
			(i) => {
				const share = Math.min(1, Math.max(0, 2.4 - Math.hypot((i % 64) - 31.3, Math.floor(i / 64) - 20.6)));
				// Of eight samples some have met the disc, in each half others.
				const half = () => sky + (sun * [0, 0, 0, 0].filter(() => next() < share).length) / 4;
				const [even, odd] = [half(), half()];
				if (even === sky && odd === sky) bare.push(i);
				return [even, odd];
			},
			(mean) => mean / 4,
		);
		const clean = learnedOf(p, p.rgb, wholeOf(p));
		for (const plane of clean) for (const i of bare) expect(plane[i]).toBeLessThanOrEqual(1.0201 * sky);
		expect(Math.max(...clean[1])).toBeGreaterThan(0.5 * sun);
	});

	it("leaves no specks in a sky, but what both halves have", () => {
		const next = randomStream(8);
		const star = 64 * 20 + 30;
		const half = (i: number) => (i === star ? 3 : next() < 0.05 ? 1.2 : 0.3);
		const p = skyOf(
			(i) => [half(i), half(i)],
			() => 0.1,
		);
		const averaged = p.rgb.map((plane) => plane.map((_, i) => (i === star ? 2 : 0.35))) as Planes;
		// Where both halves have met something it is no speck by what is known.
		const met = (i: number) => p.rgb[0][i] - Math.abs(p.halves[0][i]) > 1;
		for (const plane of learnedOf(p, averaged, wholeOf(p))) {
			expect(plane[star]).toBeGreaterThan(1.95);
			for (const [i, v] of plane.entries()) if (!met(i)) expect(Math.abs(v / 0.35 - 1)).toBeLessThan(0.0201);
		}
	});

	it("is cut into as many parts as there are threads, smaller ones where it is small, which cover it", () => {
		for (const [width, height, threads] of [
			[320, 173, 2],
			[320, 173, 8],
			[944, 510, 4],
			[40, 30, 2],
			[2000, 1000, 1],
		]) {
			const parts = partsOf(width, { y: 7, rows: height }, threads);
			expect(parts.reduce((sum, p) => sum + p.width * p.height, 0)).toBe(width * height);
			expect(Math.max(...parts.map((p) => p.y + p.height))).toBe(7 + height);
			if ((width * height) / threads >= 80 * 80) expect(parts.length).toBeGreaterThanOrEqual(threads);
			for (const p of parts) {
				if (p.y + p.height < 7 + height) expect(p.height % 4).toBe(0);
				if (p.x + p.width < width) expect(p.width % 4).toBe(0);
				// As much again lies about a narrow one.
				if (parts.length > 1) expect(Math.min(p.width, p.height)).toBeGreaterThanOrEqual(40);
			}
		}
	});

	it("makes the same bytes of any parts", () => {
		const { picture, averaged } = example();
		const whole = learnedOf(picture, averaged, wholeOf(picture));
		const parts = learnedOf(picture, averaged, [
			{ x: 0, y: 0, width: 13, height: 22 },
			{ x: 13, y: 0, width: 31, height: 22 },
			{ x: 0, y: 22, width: 44, height: 18 },
		]);
		parts.forEach((plane, c) => expect(plane).toEqual(whole[c]));
	});

	it("brings a noisy picture nearer to the truth, its edge as well, and leaves one without noise nearly as it is", async () => {
		const { memory, kernel } = tracerForTest();
		const truth = lit(96, 72, 0);
		const off = (p: readonly Float32Array[], keep: (i: number) => boolean) => {
			let [sum, n] = [0, 0];
			for (let i = 0; i < truth.rgb[1].length; i++) {
				if (!keep(i)) continue;
				sum += (p[1][i] / truth.rgb[1][i] - 1) ** 2;
				n++;
			}
			return Math.sqrt(sum / n);
		};
		const beside = (i: number) => Math.abs((i % 96) - 48) < 2 && i / 96 > 26;
		const cleaned = async (p: Picture) =>
			(await cleanHere(kernel, memory, p, { exposure: 1, reach: 10 }, weightsForTest())).rgb;
		const noisy = lit(96, 72, 1);
		const clean = await cleaned(noisy);
		expect(off(clean, () => true)).toBeLessThan(0.4 * off(noisy.rgb, () => true));
		expect(off(clean, beside)).toBeLessThan(0.85 * off(noisy.rgb, beside));
		expect(off(await cleaned(truth), () => true)).toBeLessThan(0.03);
		const dark = lit(64, 48, 0);
		for (const plane of [...dark.rgb, ...dark.halves, dark.error]) plane.fill(0);
		for (const plane of learnedOf(dark, dark.rgb, wholeOf(dark))) expect(plane.every((v) => v === 0)).toBe(true);
	});

	it("brings no light below nothing, keeps it as a whole, and knows no exposure but that it is told", async () => {
		const p = lit(80, 60, 1.2);
		const { memory, kernel } = tracerForTest();
		const at = async (light: number) => {
			const brighter = { ...p, rgb: p.rgb.map((c) => c.map((v) => v * light)) as Planes };
			brighter.halves = p.halves.map((c) => c.map((v) => v * light)) as Planes;
			brighter.error = p.error.map((v) => v * light);
			return (await cleanHere(kernel, memory, brighter, { exposure: 1 / light, reach: 6 }, weightsForTest())).rgb;
		};
		const [one, more] = [await at(1), await at(4096)];
		for (let c = 0; c < 3; c++) {
			const mean = (plane: Float32Array) => plane.reduce((s, v) => s + v, 0) / plane.length;
			expect(Math.min(...one[c])).toBeGreaterThan(0);
			expect(mean(one[c]) / mean(p.rgb[c])).toBeCloseTo(1, 1.5);
			one[c].forEach((v, i) => expect(more[c][i] / 4096).toBeCloseTo(v, 5));
		}
	});

	it("filters layers of light by the picture's weights: they add up to it", async () => {
		const p = lit(70, 50, 1, ["sun", "lamp"]);
		const { memory, kernel } = tracerForTest();
		const { rgb, layers } = await cleanHere(kernel, memory, p, { exposure: 1, reach: 6 }, weightsForTest());
		expect(layers).toHaveLength(3);
		const [sun, lamp, fog] = layers;
		for (let c = 0; c < 3; c++)
			for (let i = 0; i < rgb[c].length; i++) {
				expect(sun[c][i] + lamp[c][i]).toBeCloseTo(rgb[c][i], 5);
				expect(sun[c][i] / rgb[c][i]).toBeCloseTo(0.7, 4);
				expect(fog[c][i]).toBeLessThanOrEqual(rgb[c][i]);
				expect(fog[c][i] / rgb[c][i]).toBeCloseTo(0.1, 2);
			}
		// Where lights have noise of their own they add up all the same.
		const own = lit(70, 50, 1, ["sun", "lamp"]);
		own.light?.lights[0].rgb.forEach((plane, c) => {
			plane.forEach((v, i) => {
				plane[i] = i % 3 ? v * 1.2 : 0;
				if (own.light) own.light.lights[1].rgb[c][i] = own.rgb[c][i] - plane[i];
			});
		});
		const cleaned = await cleanHere(kernel, memory, own, { exposure: 1, reach: 6 }, weightsForTest());
		for (let i = 0; i < 70 * 50; i++)
			expect(cleaned.layers[0][1][i] + cleaned.layers[1][1][i]).toBeCloseTo(cleaned.rgb[1][i], 5);
	});

	it("stops when it is told to, and gives its memory back", () => {
		const { picture, averaged } = example();
		const { memory, kernel } = tracerForTest();
		const weights = memory.put(layWeights(weightsForTest()));
		const before = memory.used;
		const room = reserveLearned(kernel, memory, weights, picture);
		memory.u32[room.abort >> 2] = 1;
		const part = cutPart(picture, averaged, 0, wholeOf(picture)[0], 1, memory.memory.buffer, room);
		expect(learnPart(kernel, memory.memory.buffer, room, part)).toBeNull();
		releaseLearned(memory, room);
		expect(memory.used).toBe(before);
	});

	it("works with fewer threads where there is memory for no more, and says so where there is none", async () => {
		const weights = weightsForTest();
		const p = lit(900, 40, 1);
		const on = async (mib: number) => {
			const memory = new TracerMemory(mib);
			const kernel = makeKernel(kernelModule(), memory.memory);
			const asked = new Set<number>();
			const cleaner = new Cleaner(kernel, memory, weights, async (thread, job) => {
				if ("part" in job) asked.add(thread);
				await new Promise((r) => setTimeout(r, 5));
				return doCleanJob(kernel, memory.memory.buffer, job);
			});
			const { rgb } = await cleaner.clean(3, p, { exposure: 1, reach: 6 });
			return { rgb, threads: asked.size };
		};
		const [many, few] = [await on(512), await on(64)];
		expect(many.threads).toBe(3);
		expect(few.threads).toBeLessThan(3);
		expect(few.rgb).toEqual(many.rgb);
		await expect(on(24)).rejects.toThrow(/does not fit/);
	});

	it("refuses weights that are not its own, and says how they differ", () => {
		const file = weightsForTest();
		expect(() => layWeights(file.slice(2))).toThrow(`${file.byteLength - 2} bytes where ${file.byteLength} are read`);
		expect(file.byteLength).toBeLessThan(1024 * 1024);
	});
});
