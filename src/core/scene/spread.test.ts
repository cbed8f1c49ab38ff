import { describe, expect, it } from "vitest";
import { CHANNELS, emptyPicture, endsBlock, firstsBytes, placeTile, type TileSums, tilesOf } from "./picture.ts";
import { lookAt, mostOf, noiseOf, SeenNoise, samplesBetween } from "./spread.ts";

const [WIDTH, HEIGHT] = [40, 30];
const area = { x: 3, y: 5, width: WIDTH, height: HEIGHT };

/** Light and variance of an area by functions of a place in it, cut into tiles of a side. */
function seenBy(
	light: (x: number, y: number) => number,
	error: (x: number, y: number) => number,
	side = 16,
	reversed = false,
): SeenNoise {
	const seen = new SeenNoise(area);
	const tiles = tilesOf(WIDTH, HEIGHT, side);
	for (const t of reversed ? tiles.reverse() : tiles) {
		const n = t.width * t.height;
		const noise = new Float32Array(2 * n);
		for (let i = 0; i < n; i++) {
			const [x, y] = [t.x + (i % t.width), t.y + Math.floor(i / t.width)];
			noise[i] = light(x, y);
			noise[n + i] = error(x, y) ** 2;
		}
		seen.take({ ...t, x: t.x + area.x, y: t.y + area.y }, noise);
	}
	return seen;
}
const one = () => 1;

describe("where samples go", () => {
	it("is decided after half of them, at the end of a block, where there are enough to tell", () => {
		expect([4, 8, 16, 32, 48, 64, 256].map(lookAt)).toEqual([null, 4, 8, 16, 16, 32, 128]);
	});
	it("follows the noise: four times as many where it is four times as large, and as many as were ordered in all", () => {
		const limits = seenBy(one, (x) => (x < 20 ? 0.02 : 0.08)).spread(64, 1);
		const of = limits.of(area);
		expect(of[10 * WIDTH + 30] / of[10 * WIDTH + 8]).toBeGreaterThanOrEqual(2.5);
		expect(limits.all / (WIDTH * HEIGHT)).toBeGreaterThan(60);
		expect(limits.all).toBeLessThanOrEqual(64 * WIDTH * HEIGHT);
		for (const n of of) {
			expect(endsBlock(n)).toBe(true);
			expect(n).toBeGreaterThanOrEqual(32);
			expect(n).toBeLessThanOrEqual(256);
		}
	});
	it("is everywhere alike where noise is, or where there is none", () => {
		for (const error of [0.1, 0])
			expect(
				new Set(
					seenBy(one, () => error)
						.spread(32, 1)
						.of(area),
				),
			).toEqual(new Set([32]));
	});
	it("is everywhere alike where the first samples have found hardly anything in most of the frame", () => {
		const noisy = (share: number) => (x: number) => (x < share * WIDTH ? 0.6 + 0.01 * (x % 7) : 0.05);
		const of = (share: number) => new Set(seenBy(one, noisy(share)).spread(32, 1).of(area));
		expect(of(0.6)).toEqual(new Set([32]));
		expect(of(0.3).size).toBeGreaterThan(1);
	});

	it("does not depend on how the area was cut, nor on whose tiles came first", () => {
		const light = (x: number, y: number) => 1 + ((x * 7 + y * 3) % 5);
		const error = (x: number, y: number) => 0.05 * ((x * y) % 7);
		const limits = seenBy(light, error).spread(32, 1).of(area);
		expect(seenBy(light, error, 128).spread(32, 1).of(area)).toEqual(limits);
		expect(seenBy(light, error, 9, true).spread(32, 1).of(area)).toEqual(limits);
	});
	it("counts noise by the light that it lies in, and next to nothing where nobody would see it", () => {
		// As large an error in the bright half is a tenth of the noise; what is almost black is not seen at all.
		const of = (light: (x: number) => number) => {
			const limits = seenBy(light, () => 0.05)
				.spread(64, 1)
				.of(area);
			return [limits[10 * WIDTH + 8], limits[10 * WIDTH + 30]];
		};
		const [dark, bright] = of((x) => (x < 20 ? 1 : 10));
		expect(dark).toBeGreaterThan(2 * bright);
		const black = seenBy(
			(x) => (x < 20 ? 1e-6 : 1),
			(x) => (x < 20 ? 1e-5 : 0.05),
		)
			.spread(64, 1)
			.of(area);
		expect(black[10 * WIDTH + 8]).toBeLessThan(black[10 * WIDTH + 30]);
	});
	it("is not led astray by one sample that is brighter than all others", () => {
		const wild = seenBy(one, (x, y) => (x === 12 && y === 12 ? 1e6 : 0.05)).spread(32, 1);
		const of = wild.of(area);
		expect(of[12 * WIDTH + 12]).toBe(128);
		expect(of[12 * WIDTH + 20]).toBeGreaterThanOrEqual(16);
		expect(wild.all / (WIDTH * HEIGHT)).toBeGreaterThan(16);
	});
	it("says what samples are too few for it", () => {
		expect(() => seenBy(one, one).spread(4, 1)).toThrow(/4 samples are too few/);
	});
});

describe("a tile whose pixels take samples of their own number", () => {
	const tile = { x: 0, y: 0, width: 2, height: 1 };
	/** Two pixels of light 3: the first has taken 16 samples, the second 32. */
	const sums = (): TileSums => {
		const planes = new Float64Array(2 * CHANNELS);
		const limits = Uint32Array.of(16, 32);
		limits.forEach((n, i) => {
			for (const c of [0, 1, 2]) planes[2 * c + i] = 3 * n;
			planes[2 * 3 + i] = 10 * n;
			for (const c of [10, 11, 12]) planes[2 * c + i] = 4 * (n / 2);
		});
		return { sums: planes, firsts: new ArrayBuffer(firstsBytes(tile)), samples: 32, limits };
	};
	it("is put into a picture by the number of each", () => {
		const picture = emptyPicture(2, 1);
		placeTile(picture, tile, sums());
		expect([...picture.rgb[0]]).toEqual([3, 3]);
		expect([...picture.halves[1]]).toEqual([1, 1]);
		expect([...picture.counts]).toEqual([16, 32]);
		expect(picture.error[0] / picture.error[1]).toBeCloseTo(Math.sqrt(31 / 15), 5);
		expect(picture.samples).toBe(32);
	});
	it("has fewer samples to take after the first pixel is done", () => {
		expect(mostOf(Uint32Array.of(16, 48, 32))).toBe(48);
		const limits = Uint32Array.of(16, 32);
		expect([samplesBetween(2, 0, 16, limits), samplesBetween(2, 16, 32, limits), samplesBetween(2, 0, 32)]).toEqual([
			32, 16, 64,
		]);
	});
	it("tells the light and the variance of its pixels", () => {
		const { limits: _, ...even } = sums();
		const noise = noiseOf(
			{ ...tile, width: 1 },
			{ ...even, sums: even.sums.filter((_, i) => i % 2 === 0), samples: 16 },
		);
		expect([...noise]).toEqual([3, expect.closeTo(1 / 15, 6)]);
	});
});
