import { crc32, deflateSync } from "node:zlib";
import { encode } from "fast-png";
import { describe, expect, it } from "vitest";
import { hash32 } from "../maths/hash.ts";
import { writeExr } from "./exrWrite.ts";
import { greyPng } from "./greyPng.ts";
import { landPictureBytes, readHeights, readLandPicture } from "./landPicture.ts";

const bumpy = (n: number, over = 1) => Float32Array.from({ length: n * n }, (_, at) => over * (hash32(at) / 2 ** 32));
const exr = (width: number, height: number, values: Float32Array, name = "Y", text: Record<string, string> = {}) =>
	writeExr({ width, height, channels: [{ name, data: values }], text });

describe("a picture of heights", () => {
	it("is met again: metres of an EXR, shares of a PNG, and what they say of where they lie", () => {
		const heights = bumpy(24, 300).map((v) => v - 40);
		const text = { metresPerPixel: "2.5", x: "-12", z: "30", leastM: "-40", mostM: "260" };
		const floats = readHeights(exr(24, 24, heights, "Y", text));
		const { leastM, mostM } = floats.facts;
		expect(floats.facts).toMatchObject({ bits: 32, acrossM: 60, at: { x: -12, z: 30 }, mended: 0, channel: null });
		const range = (mostM ?? 0) - (leastM ?? 0);
		for (const [i, h] of heights.entries()) expect((leastM ?? 0) + range * floats.picture.values[i]).toBeCloseTo(h, 3);
		const shares = heights.map((h) => (h + 40) / 300);
		const grey = readHeights(greyPng(shares, 24, 24, text));
		expect(grey.facts).toMatchObject({ bits: 16, leastM: -40, mostM: 260, acrossM: 60, at: { x: -12, z: 30 } });
		for (const [i, s] of shares.entries())
			expect(Math.abs(grey.picture.values[i] - s)).toBeLessThanOrEqual(0.5001 / 65_535);
	});
	it("is kept as bytes", () => {
		const { picture } = readHeights(exr(6, 4, bumpy(6).slice(0, 24)));
		const { values, ...rest } = readLandPicture(landPictureBytes(picture));
		expect(rest).toEqual({ width: 6, height: 4 });
		expect([...values]).toEqual([...picture.values]);
		expect(() => readLandPicture(landPictureBytes(picture).subarray(0, 40))).toThrow(/damaged/);
	});
	it("has holes filled from about them", () => {
		const plane = Float32Array.from({ length: 32 * 32 }, (_, at) => 10 + (at % 32) * 0.5);
		const holed = plane.map((v, at) => {
			const [i, j] = [at % 32, Math.floor(at / 32)];
			return i > 8 && i < 15 && j > 8 && j < 15 ? (at % 2 ? Number.NaN : Number.NEGATIVE_INFINITY) : v;
		});
		const { picture, facts } = readHeights(exr(32, 32, holed));
		expect(facts).toMatchObject({ mended: 36, leastM: 10, mostM: 25.5 });
		for (const [at, v] of plane.entries()) expect(Math.abs(10 + 15.5 * picture.values[at] - v)).toBeLessThan(1.5);
	});
	it("has steps of 8 bits made into slopes that keep within half of one", () => {
		const [n, step] = [128, 1 / 255];
		// A gentle hill that rises by twelve steps: treads are many pixels wide.
		const hill = Float32Array.from({ length: n * n }, (_, at) => {
			const r = Math.hypot((at % n) - n / 2, Math.floor(at / n) - n / 2) / n;
			return 0.5 + 12 * step * Math.max(0, 1 - 2 * r);
		});
		const bytes = encode({
			width: n,
			height: n,
			channels: 1,
			depth: 8,
			data: Uint8Array.from(hill, (v) => Math.round(255 * v)),
		});
		const [kept, smooth] = [readHeights(bytes), readHeights(bytes, true)];
		expect(kept.facts.bits).toBe(8);
		const rough = ({ values }: { values: ArrayLike<number> }) => {
			let most = 0;
			for (let j = 4; j < n - 4; j++)
				for (let i = 4; i < n - 4; i++) {
					const at = j * n + i;
					most = Math.max(most, Math.abs(values[at + 1] - values[at]));
				}
			return most / step;
		};
		expect(rough(kept.picture)).toBeCloseTo(1, 6);
		expect(rough(smooth.picture)).toBeLessThan(0.4);
		// Slopes are what shows: those of the hill come back.
		let [off, was] = [0, 0];
		for (const [at, v] of kept.picture.values.entries()) {
			expect(Math.abs(smooth.picture.values[at] - v)).toBeLessThanOrEqual(0.5001 * step);
			if (at % n === n - 1) continue;
			const slope = (of: ArrayLike<number>) => of[at + 1] - of[at];
			off += Math.abs(slope(smooth.picture.values) - slope(hill));
			was += Math.abs(slope(kept.picture.values) - slope(hill));
		}
		expect(off / was).toBeLessThan(0.3);
	});
	it("is halved where it is large", () => {
		const wide = new Float32Array(5000 * 2).map((_, at) => at % 5000);
		const { picture, facts } = readHeights(exr(5000, 2, wide));
		expect([picture.width, picture.height]).toEqual([2500, 1]);
		expect(facts).toMatchObject({ widthPx: 5000, heightPx: 2, halved: 1, leastM: 0.5, mostM: 4998.5 });
	});
	it("has few bits unpacked", () => {
		const chunk = (name: string, body: Uint8Array) => {
			const out = Buffer.alloc(body.length + 12);
			out.writeUInt32BE(body.length, 0);
			out.write(name, 4, "latin1");
			out.set(body, 8);
			out.writeUInt32BE(crc32(out.subarray(4, -4)), out.length - 4);
			return out;
		};
		const png = (depth: number, rows: number[][]) => {
			const head = Uint8Array.from([0, 0, 0, 3, 0, 0, 0, 2, depth, 0, 0, 0, 0]);
			const lines = deflateSync(Uint8Array.from(rows.flatMap((row) => [0, ...row])));
			const signature = Uint8Array.from([137, 80, 78, 71, 13, 10, 26, 10]);
			return Buffer.concat([signature, chunk("IHDR", head), chunk("IDAT", lines), chunk("IEND", new Uint8Array())]);
		};
		for (const [depth, rows, steps] of [
			[
				4,
				[
					[0x0f, 0x70],
					[0xf0, 0x30],
				],
				[0, 15, 7, 15, 0, 3],
			],
			[2, [[0b00011000], [0b11100100]], [0, 1, 2, 3, 2, 1]],
			[1, [[0b10100000], [0b01000000]], [1, 0, 1, 0, 1, 0]],
		] as [number, number[][], number[]][]) {
			const { picture, facts } = readHeights(new Uint8Array(png(depth, rows)));
			expect(facts.bits).toBe(depth);
			expect([...picture.values].map((v) => Math.round(v * (2 ** depth - 1)))).toEqual(steps);
		}
	});
	it("names which of several channels is read", () => {
		const rgb = encode({
			width: 2,
			height: 2,
			channels: 3,
			depth: 8,
			data: Uint8Array.from({ length: 12 }, (_, i) => 20 * i),
		});
		const { picture, facts } = readHeights(rgb);
		expect(facts.channel).toBe("the first of red, green and blue");
		expect([...picture.values].map((v) => Math.round(255 * v))).toEqual([0, 60, 120, 180]);
	});
});

describe("a picture that cannot be one of heights", () => {
	const say = (bytes: Uint8Array) => () => readHeights(bytes);
	const head = (width: number, height: number) => {
		const png = encode({ width: 2, height: 2, channels: 1, depth: 8, data: new Uint8Array(4) }).slice();
		new DataView(png.buffer).setUint32(16, width);
		new DataView(png.buffer).setUint32(20, height);
		return png;
	};
	it("is refused in a sentence that names what and how much", () => {
		expect(say(new Uint8Array())).toThrow("The file is empty.");
		expect(say(new TextEncoder().encode("heights, many of them"))).toThrow(/no picture of heights/);
		expect(say(exr(1, 1, new Float32Array(1)))).toThrow(/has 1 × 1 pixels: land needs two/);
		expect(say(head(16_000, 16_000))).toThrow(/has 16000 × 16000 pixels; up to 8192/);
		expect(say(exr(4, 4, new Float32Array(16).fill(Number.POSITIVE_INFINITY)))).toThrow(/None of the picture's values/);
		expect(
			say(
				writeExr({
					width: 2,
					height: 2,
					text: {},
					channels: ["slope.u", "slope.v"].map((name) => ({ name, data: new Float32Array(4) })),
				}),
			),
		).toThrow(/has the channels slope.u, slope.v, none of which is called Y/);
		const palette = encode({
			width: 2,
			height: 2,
			channels: 1,
			depth: 8,
			data: new Uint8Array(4),
			palette: [
				[0, 0, 0],
				[9, 9, 9],
			],
		});
		expect(say(palette)).toThrow(/palette/);
	});
	it("is refused or read when it is damaged anywhere, never broken off", () => {
		const files = [greyPng(bumpy(12), 12, 12), exr(12, 12, bumpy(12, 50))];
		for (const [f, file] of files.entries())
			for (let n = 0; n < 2000; n++) {
				const bytes = file.slice();
				for (let k = 0; k <= n % 3; k++) bytes[hash32(n * 7 + k + 1000 * f) % bytes.length] = hash32(n + 31 * k) & 255;
				const cut = n % 5 === 0 ? bytes.subarray(0, hash32(n) % bytes.length) : bytes;
				try {
					const { picture } = readHeights(cut);
					expect(picture.values.every(Number.isFinite)).toBe(true);
				} catch (error) {
					expect((error as Error).name).toBe("Error");
					expect("code" in (error as object), (error as Error).message).toBe(true);
				}
			}
	});
});
