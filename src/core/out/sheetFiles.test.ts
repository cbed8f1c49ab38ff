import { decode } from "fast-png";
import { describe, expect, it } from "vitest";
import { decodeSrgb } from "../colour/linear.ts";
import { readExr } from "../formats/exr.ts";
import { bakeSheet } from "../surface/sheet.ts";
import { SURFACES } from "../surface/surfaces.ts";
import { SHEET_FILES, sheetExr } from "./sheetFiles.ts";

describe("a surface as pictures", () => {
	const sheet = bakeSheet(SURFACES["cracked mud"], 2, 64);
	const [full] = sheet.levels;
	const mm = (n: number) => sheet.leastMm + (full.height[n] / 65_535) * (sheet.mostMm - sheet.leastMm);

	it("has the colours, roughness and heights of the sheet", () => {
		const colour = decode(SHEET_FILES.colour(sheet));
		expect([colour.width, colour.height, colour.channels, colour.depth]).toEqual([64, 64, 3, 8]);
		for (let n = 0; n < 64 * 64; n++)
			for (let c = 0; c < 3; c++)
				expect(Math.abs(decodeSrgb(colour.data[3 * n + c] / 255) - (full.colour[4 * n + c] / 255) ** 2)).toBeLessThan(
					0.005,
				);
		const rough = decode(SHEET_FILES.roughness(sheet));
		expect(rough.depth).toBe(16);
		rough.data.forEach((v, n) => expect(Math.abs(v / 257 - full.colour[4 * n + 3])).toBeLessThan(0.01));
		const heights = decode(SHEET_FILES.height(sheet));
		expect([...heights.data]).toEqual([...full.height]);
		expect(heights.text).toMatchObject({ unit: "millimetres", least: String(sheet.leastMm), metresAcross: "2" });
		const exr = readExr(sheetExr(sheet));
		exr.channels[0].data.forEach((m, n) => expect(Math.abs(1000 * m - mm(n))).toBeLessThan(1e-3));
	});

	it("has normals of those heights: right, up the picture, out of the surface", () => {
		const { data } = decode(SHEET_FILES.normal(sheet));
		const run = 2000 * (sheet.sideM / 64);
		for (let n = 0; n < 64 * 64; n++) {
			const [x, y, z] = [0, 1, 2].map((c) => (2 * data[3 * n + c]) / 65_535 - 1);
			expect(Math.hypot(x, y, z)).toBeCloseTo(1, 3);
			const [i, j] = [n % 64, Math.floor(n / 64)];
			const at = (a: number, b: number) => mm(((b + 64) % 64) * 64 + ((a + 64) % 64));
			expect(-x / z).toBeCloseTo((at(i + 1, j) - at(i - 1, j)) / run, 2);
			expect(-y / z).toBeCloseTo((at(i, j - 1) - at(i, j + 1)) / run, 2);
		}
	});
});
