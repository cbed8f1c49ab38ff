import { describe, expect, it } from "vitest";
import { randomStream } from "../maths/hash.ts";
import { PictureFileError } from "./exr.ts";
import { HdrError, isHdr, readHdr, writeHdr } from "./hdr.ts";

/** A picture with even runs, ramps and a small very bright place. */
function picture(width: number, height: number) {
	const rgb = new Float32Array(width * height * 3);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++)
			rgb.set(
				y < 3 ? [0.25, 0.5, 1] : [x / width, y / height, x === 5 && y === 5 ? 90_000 : 0.002],
				(y * width + x) * 3,
			);
	}
	return { width, height, rgb };
}
const text = (s: string) => new TextEncoder().encode(s);
const joined = (...parts: Uint8Array[]) => new Uint8Array(parts.flatMap((p) => [...p]));

describe("HDR pictures", () => {
	for (const [width, height] of [
		[40, 9],
		[5, 7],
		[300, 4],
	]) {
		it(`of ${width} × ${height} come back within the steps of their mantissas`, () => {
			const from = picture(width, height);
			const back = readHdr(writeHdr(from));
			expect([back.width, back.height]).toEqual([width, height]);
			for (let i = 0; i < from.rgb.length; i += 3) {
				const most = Math.max(...from.rgb.subarray(i, i + 3));
				for (let c = 0; c < 3; c++) expect(Math.abs(back.rgb[i + c] - from.rgb[i + c])).toBeLessThanOrEqual(most / 256);
			}
		});
	}

	it("are shorter where runs repeat", () => {
		expect(writeHdr({ width: 512, height: 64, rgb: new Float32Array(512 * 64 * 3).fill(0.5) }).length).toBeLessThan(
			512 * 64 * 0.2,
		);
	});

	const pixel = (r: number, e = 136) => [r, 0, 0, e];
	const read = (head: string, ...bytes: number[]) =>
		[...readHdr(joined(text(`#?RADIANCE\n${head}\n`), new Uint8Array(bytes))).rgb].filter((_, i) => i % 3 === 0);

	it("may run in all directions", () => {
		const four = [pixel(10), pixel(20), pixel(30), pixel(40), pixel(50), pixel(60)].flat();
		expect(read("\n-Y 2 +X 3", ...four)).toEqual([10.5, 20.5, 30.5, 40.5, 50.5, 60.5]);
		expect(read("\n+Y 2 +X 3", ...four)).toEqual([40.5, 50.5, 60.5, 10.5, 20.5, 30.5]);
		expect(read("\n-Y 2 -X 3", ...four)).toEqual([30.5, 20.5, 10.5, 60.5, 50.5, 40.5]);
		// Columns: the first line is the left one, from the top down.
		expect(read("\n+X 3 -Y 2", ...four)).toEqual([10.5, 30.5, 50.5, 20.5, 40.5, 60.5]);
	});

	it("have their exposures taken back, and repeat by the older coding", () => {
		expect(read("EXPOSURE=2\nEXPOSURE= 4\n\n-Y 1 +X 1", ...pixel(7))).toEqual([7.5 / 8]);
		expect(read("\n-Y 1 +X 4", ...pixel(9), 1, 1, 1, 3)).toEqual([9.5, 9.5, 9.5, 9.5]);
	});

	it("are refused in words when they are of another kind", () => {
		const says = (head: string, why: RegExp, ...bytes: number[]) => expect(() => read(head, ...bytes)).toThrow(why);
		expect(() => readHdr(text("P6\n1 1\n"))).toThrow(/first two bytes/);
		says("FORMAT=32-bit_rle_xyze\n\n-Y 1 +X 1", /xyze/, 0, 0, 0, 0);
		says("EXPOSURE=0\n\n-Y 1 +X 1", /EXPOSURE/, 0, 0, 0, 0);
		says("\n-Y 1 +Z 1", /size/);
		says("\n-Y 100000 +X 100000", /claims 100000 × 100000/);
		says("\n-Y 9000 +X 9000", /ends after/, 0, 0, 0, 0);
		says("\n-Y 1 +X 2", /line 0/, 0, 0, 0, 0);
		says("\n-Y 1 +X 2", /damaged/, 1, 1, 1, 9, 0, 0, 0, 0);
		expect(isHdr(text("#?RGBE\n"))).toBe(true);
	});

	it("cut anywhere, with bytes changed or repeated, are an error or a picture, without much memory: 2,500 of them", () => {
		const good = writeHdr(picture(40, 30));
		const random = randomStream(7);
		const pick = (n: number) => Math.floor(random() * n);
		const before = process.memoryUsage().rss;
		let errors = 0;
		for (let k = 0; k < 2500; k++) {
			const bad = good.slice(0, k % 4 === 0 ? pick(good.length) : good.length);
			if (k % 4 === 1) for (let i = 0; i < 1 + pick(12); i++) bad[pick(bad.length)] = pick(256);
			if (k % 4 === 2) for (let i = 0; i < 1 + pick(3); i++) bad[pick(60)] ^= 1 << pick(8);
			if (k % 4 === 3) bad.copyWithin(pick(bad.length), pick(bad.length - 40), pick(bad.length));
			try {
				const p = readHdr(bad, 1_000_000);
				expect(p.rgb.length).toBe(p.width * p.height * 3);
			} catch (error) {
				expect(error).toBeInstanceOf(HdrError);
				expect(error).toBeInstanceOf(PictureFileError);
				errors++;
			}
		}
		expect(errors).toBeGreaterThan(500);
		expect(process.memoryUsage().rss - before).toBeLessThan(300e6);
	});
});
