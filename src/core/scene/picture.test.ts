import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
	blockEndFrom,
	CHANNELS,
	emptyPicture,
	endsBlock,
	isClean,
	namedPlanes,
	nextLook,
	placeTile,
	type Tile,
	type TileSums,
	tileNoise,
	tilesOf,
} from "./picture.ts";

const sumsOf = (tile: Tile, samples: number, value: (channel: number, i: number) => number): TileSums => {
	const n = tile.width * tile.height;
	const sums = new Float64Array(n * CHANNELS);
	for (let c = 0; c < CHANNELS; c++) for (let i = 0; i < n; i++) sums[c * n + i] = value(c, i) * samples;
	const firsts = new ArrayBuffer(n * 8);
	new Float32Array(firsts, 0, n).fill(12.5);
	new Uint32Array(firsts, n * 4, n).fill(7);
	return { sums, firsts, samples };
};

describe("tiles", () => {
	it("cover every pixel of a picture once", () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 300 }),
				fc.integer({ min: 1, max: 300 }),
				fc.integer({ min: 16, max: 128 }),
				(w, h, size) => {
					const seen = new Uint8Array(w * h);
					for (const t of tilesOf(w, h, size))
						for (let y = t.y; y < t.y + t.height; y++) for (let x = t.x; x < t.x + t.width; x++) seen[y * w + x]++;
					expect(seen.every((v) => v === 1)).toBe(true);
				},
			),
			{ numRuns: 40 },
		);
	});
	it("put means, first values and errors where they belong", () => {
		const picture = emptyPicture(20, 10);
		const [, tile] = tilesOf(20, 10, 12);
		// Luminance of (1, 2, 3) is 1.8596; a mean square of 5 leaves a variance of 1.5419.
		placeTile(
			picture,
			tile,
			sumsOf(tile, 32, (c) => [1, 2, 3, 5, 0.4, 0.5, 0.6, 0, 1, 0][c]),
		);
		const at = 3 * 20 + 15;
		expect(picture.rgb.map((p) => p[at])).toEqual([1, 2, 3]);
		expect(picture.albedo[1][at]).toBe(0.5);
		expect(picture.normal[1][at]).toBe(1);
		expect(picture.depth[at]).toBe(12.5);
		expect(picture.id[at]).toBe(7);
		expect(picture.error[at]).toBeCloseTo(Math.sqrt((5 - 1.8596 ** 2) / 31), 4);
		expect(picture.rgb[0][3 * 20 + 2]).toBe(0);
		expect(namedPlanes(picture).map((p) => p.name)).toEqual([
			"B",
			"G",
			"N.X",
			"N.Y",
			"N.Z",
			"R",
			"Z",
			"albedo.B",
			"albedo.G",
			"albedo.R",
			"id",
		]);
	});
	it("count a block under way with those that are finished", () => {
		const [tile] = tilesOf(4, 4);
		const whole = sumsOf(tile, 16, () => 2);
		const picture = emptyPicture(4, 4);
		placeTile(picture, tile, { ...whole, partial: whole.sums.map((v) => v / 4), samples: 20 });
		expect(picture.rgb[0][5]).toBeCloseTo(2, 6);
	});
	it("have less noise the more samples they have, by the root", () => {
		const [tile] = tilesOf(8, 8);
		const noise = (samples: number) =>
			tileNoise(
				tile,
				sumsOf(tile, samples, (c) => (c === 3 ? 2 : 1)),
			);
		expect(noise(17) / noise(65)).toBeCloseTo(2, 3);
		expect(
			tileNoise(
				tile,
				sumsOf(tile, 16, () => 0),
			),
		).toBe(0);
	});
});

describe("the places where noise is looked at", () => {
	it("are 32, 64, 128, 256 and 512 samples, then every 512", () => {
		const places: number[] = [];
		for (let done = 0; places.length < 8; done = places[places.length - 1]) places.push(nextLook(done));
		expect(places).toEqual([32, 64, 128, 256, 512, 1024, 1536, 2048]);
		expect([0, 16, 32, 48, 528].map(nextLook)).toEqual([32, 32, 64, 64, 1024]);
	});
	it("lie at ends of blocks, which are 4, 8, 16 and then each 16", () => {
		expect([1, 4, 5, 8, 9, 16, 17, 250].map(blockEndFrom)).toEqual([4, 4, 8, 8, 16, 16, 32, 256]);
		expect(Array.from({ length: 50 }, (_, n) => n).filter((n) => n > 0 && endsBlock(n))).toEqual([4, 8, 16, 32, 48]);
	});
	it("let a tile end there alone, and only with little enough noise", () => {
		const tile: Tile = { x: 0, y: 0, width: 4, height: 4 };
		const even = (blocks: number, spread: number): TileSums => {
			const samples = blocks * 16;
			const sums = new Float64Array(16 * CHANNELS);
			for (let i = 0; i < 16; i++) {
				for (let c = 0; c < 3; c++) sums[c * 16 + i] = samples;
				sums[3 * 16 + i] = samples * (1 + spread * spread);
			}
			return { sums, firsts: new ArrayBuffer(16 * 8), samples };
		};
		// A spread of 0.2 over 64 samples is a standard error of 2.5 %.
		expect(tileNoise(tile, even(4, 0.2))).toBeCloseTo(0.0252, 4);
		expect(isClean(tile, even(4, 0.2), 2.6)).toBe(true);
		expect(isClean(tile, even(4, 0.2), 2.5)).toBe(false);
		expect(isClean(tile, even(5, 0.2), 50)).toBe(false);
		expect(isClean(tile, even(4, 0.2), null)).toBe(false);
		expect(isClean(tile, even(0, 0), 50)).toBe(false);
	});
	it("are told in the picture: each pixel knows its samples", () => {
		const picture = emptyPicture(8, 4);
		const sums = { sums: new Float64Array(16 * CHANNELS), firsts: new ArrayBuffer(16 * 8), samples: 48 };
		placeTile(picture, { x: 4, y: 0, width: 4, height: 4 }, sums);
		expect(picture.counts[3]).toBe(0);
		expect(picture.counts[4]).toBe(48);
	});
});
