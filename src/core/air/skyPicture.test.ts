import { describe, expect, it } from "vitest";
import { luminance } from "../colour/linear.ts";
import { DEG } from "../maths/functions.ts";
import {
	completedStrip,
	makeSkyTable,
	packTexel,
	pictureLuminance,
	RING,
	readSky,
	readSkyTable,
	type SkyTable,
	skyEdgeDeg,
	skyTableBytes,
	towards,
	unpackTexel,
} from "./skyPicture.ts";

const tableOf = (width: number, height: number, at: (u: number, v: number) => number[]): SkyTable => {
	const rgb = new Float32Array(width * height * 3);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) rgb.set(at((x + 0.5) / width, (y + 0.5) / height), (y * width + x) * 3);
	return makeSkyTable(width, height, rgb).table;
};
const hung = (table: SkyTable, over = {}) => ({ ...table, turn: 0, gain: 1, saturation: 1, ...over });

describe("texels", () => {
	it("keep values within half a step of the brightest of the three", () => {
		for (const rgb of [
			[1, 0.5, 0.25],
			[65_000, 12, 0],
			[3e-6, 1e-6, 0],
			[511.7, 511.7, 511.7],
			[0.001, 900, 4],
		]) {
			const back = unpackTexel(packTexel(rgb[0], rgb[1], rgb[2]));
			const step = Math.max(...rgb) / 256 + 2 ** -24;
			back.forEach((v, c) => void expect(Math.abs(v - rgb[c])).toBeLessThanOrEqual(step / 2 + 1e-12));
		}
		expect(packTexel(0, 0, 0)).toBe(0);
		expect(unpackTexel(packTexel(1e9, 1, 1))[0]).toBe(511 * 2 ** 7);
	});
});

describe("a strip about the horizon", () => {
	it("is completed to all directions: it stays where it is, and goes on in the colours of its edges", () => {
		// 32 × 6 of 32 × 16: its edges lie at 33.75 degrees.
		const strip = tableOf(32, 6, (u, v) => [v < 0.2 ? 4 : 1, u, 0.5]);
		const all = completedStrip(strip);
		expect([all.width, all.height]).toEqual([32, 16]);
		expect(all.texels.subarray(5 * 32, 11 * 32)).toEqual(strip.texels);
		expect(new Set(all.texels.subarray(0, 5 * 32)).size).toBe(1);
		const [r, g] = unpackTexel(all.texels[0]);
		const [low] = unpackTexel(all.texels[15 * 32]);
		expect(r / low).toBeCloseTo(4, 1);
		expect(g / low).toBeCloseTo(0.5, 1);
		// Seen at the horizon it is its middle.
		expect(skyEdgeDeg({ widthPx: 32, heightPx: 6 })).toBeCloseTo(33.75, 9);
		expect(skyEdgeDeg({ widthPx: 4096, heightPx: 2048 })).toBe(90);
		const bright = (elevationDeg: number) =>
			luminance(pictureLuminance(hung(all), towards(0.3, (90 - elevationDeg) / 180)));
		expect(bright(60)).toBeGreaterThan(bright(-60) * 1.2);
		expect(bright(75)).toBeCloseTo(bright(50), 6);
	});
});

describe("a table", () => {
	it("mends what is no number, infinite or below zero, and says how often", () => {
		const rgb = new Float32Array([Number.NaN, 1, 1, -3, 1, 1, Number.POSITIVE_INFINITY, 1, 8, 2, 2, 2]);
		const { table, mended } = makeSkyTable(4, 1, rgb);
		expect(mended).toBe(3);
		const of = (i: number) => unpackTexel(table.texels[i]);
		expect(of(0)[0]).toBe(0);
		expect(of(1)[0]).toBe(0);
		expect(of(2)[0] / of(2)[2]).toBeCloseTo(1, 2);
		expect(of(3)[0] / of(2)[2]).toBeCloseTo(0.25, 2);
	});

	it("of nothing but black, and of one pixel, is a sky all the same", () => {
		const black = readSky(makeSkyTable(8, 4, new Float32Array(96)).table);
		expect(black.level).toBe(0);
		expect(black.sums.every(Number.isFinite)).toBe(true);
		const one = makeSkyTable(1, 1, new Float32Array([3, 2, 1])).table;
		const reading = readSky(one);
		expect(reading.sums.every((v) => v > 0 && v <= 1)).toBe(true);
		const seen = pictureLuminance(hung(one), towards(0.3, 0.2));
		expect(seen[0] / seen[2]).toBeCloseTo(3, 1);
	});

	it("goes into bytes and out again, and damaged bytes are refused", () => {
		const table = tableOf(16, 8, (u, v) => [u, v, 1]);
		const bytes = skyTableBytes(table);
		expect(readSkyTable(bytes)).toEqual(table);
		expect(() => readSkyTable(bytes.slice(0, 99))).toThrow(/damaged/);
		expect(() => readSkyTable(new Uint8Array(3))).toThrow(/damaged/);
	});

	it("is reduced by whole numbers when it is wider than 8192", () => {
		const { table } = makeSkyTable(9000, 2, new Float32Array(9000 * 2 * 3).fill(2));
		expect([table.width, table.height]).toEqual([4500, 1]);
	});
});

describe("what is read from a table", () => {
	it("level ground has π times the luminance of an even sky", () => {
		const even = readSky(tableOf(128, 64, () => [1, 1, 1]));
		const unit = unpackTexel(tableOf(128, 64, () => [1, 1, 1]).texels[0])[0];
		expect(even.level / unit).toBeCloseTo(Math.PI, 2);
		expect(even.sun).toBeNull();
	});

	it("each row of sums ends at 1 and never falls", () => {
		const { sums, columns, rows } = readSky(tableOf(64, 32, (u, v) => [u > 0.4 && u < 0.45 ? 900 : 0.1, v, 0]));
		for (let k = 0; k <= rows; k++) {
			const row = sums.subarray(rows + 1 + k * columns, rows + 1 + (k + 1) * columns);
			expect(row[columns - 1]).toBe(1);
			for (let i = 1; i < columns; i++) expect(row[i]).toBeGreaterThanOrEqual(row[i - 1]);
		}
		expect(sums[rows]).toBe(1);
	});

	it("the picture's sun stands where it is drawn, with the light of its pixels", () => {
		const at = towards(0.7, 0.3);
		const table = tableOf(1024, 512, (u, v) => {
			const d = towards(u, v);
			return at[0] * d[0] + at[1] * d[1] + at[2] * d[2] > Math.cos(0.8 * DEG) ? [50_000, 45_000, 30_000] : [1, 1, 1];
		});
		const { sun, small } = readSky(table);
		expect(sun?.headingDeg).toBeCloseTo(72, 0);
		expect(sun?.elevationDeg).toBeCloseTo(36, 0);
		const unit = unpackTexel(table.texels[0])[0];
		// What is left of the sky without it is even.
		for (let i = 0; i < small.length; i++) expect(small[i] / unit).toBeCloseTo(1, 2);
		expect((sun?.rgb[0] ?? 0) / unit / (50_000 * Math.PI * (0.8 * DEG) ** 2)).toBeCloseTo(1, 1);
	});

	it("a bright half of the sky is no sun", () => {
		expect(readSky(tableOf(256, 128, (u) => (u > 0.5 ? [500, 500, 500] : [1, 1, 1]))).sun).toBeNull();
		expect(
			readSky(tableOf(256, 128, (u, v) => (v < 0.5 && u > 0.49 && u < 0.51 ? [9000, 9000, 9000] : [1, 1, 1]))).sun,
		).toBeNull();
	});

	it("the air has the colour of the horizon by heading", () => {
		const { ring } = readSky(
			tableOf(256, 128, (u, v) => (v < 0.5 ? [u < 0.5 ? 1 : 0, 0.2, u < 0.5 ? 0 : 1] : [9, 9, 9])),
		);
		expect(ring[(RING / 4) * 3]).toBeGreaterThan(ring[(RING / 4) * 3 + 2] * 50);
		expect(ring[((3 * RING) / 4) * 3 + 2]).toBeGreaterThan(ring[((3 * RING) / 4) * 3] * 50);
	});
});

describe("a hung picture", () => {
	const table = tableOf(512, 256, (u, v) => [u, v, 1]);
	it("has its middle ahead, its right half to the right, and turns clockwise", () => {
		const red = (d: [number, number, number], turn = 0) => {
			const c = pictureLuminance(hung(table, { turn }), d);
			return c[0] / c[2];
		};
		expect(red([0, 0, -1])).toBeCloseTo(0.5, 2);
		expect(red([1, 0, 0])).toBeCloseTo(0.75, 2);
		expect(red([-1, 0, 0])).toBeCloseTo(0.25, 2);
		expect(red([1, 0, 0], 0.25)).toBeCloseTo(0.5, 2);
	});
	it("loses its colour with saturation 0, and keeps its luminance", () => {
		const d = towards(0.9, 0.4);
		const full = pictureLuminance(hung(table), d);
		const grey = pictureLuminance(hung(table, { saturation: 0 }), d);
		expect(grey[0]).toBeCloseTo(grey[2], 6);
		expect(grey[0]).toBeCloseTo(luminance(full), 4);
	});
	it("goes over its seam and its poles without a break", () => {
		for (const d of [towards(0.0001, 0.4), towards(0.9999, 0.4), [0, 1, 0] as const, [0, -1, 0] as const])
			pictureLuminance(hung(table), d as never).forEach((v) => void expect(v).toBeGreaterThanOrEqual(0));
	});
});
