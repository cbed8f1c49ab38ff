import { decode } from "fast-png";
import { beforeAll, describe, expect, it } from "vitest";
import { decodeSrgb } from "../../core/colour/linear.ts";
import { readExr } from "../../core/formats/exr.ts";
import { SHEET_FILES, sheetExr } from "../../core/out/sheetFiles.ts";
import { type Sheet, texelAt } from "../../core/surface/sheet.ts";
import { SURFACES } from "../../core/surface/surfaces.ts";
import { bakeSheet } from "./bake.ts";
import { sheetKernelOf } from "./maker.ts";
import { sheetModule } from "./node.ts";

describe("a surface as pictures", () => {
	let sheet: Sheet;
	beforeAll(async () => {
		sheet = bakeSheet(sheetKernelOf(await sheetModule()), SURFACES["cracked mud"], 2, 64);
	});
	const mm = (n: number) => texelAt(sheet, n).heightMm;

	it("has the colours, roughness, metal and heights of the sheet", () => {
		const colour = decode(SHEET_FILES.colour(sheet));
		expect([colour.width, colour.height, colour.channels, colour.depth]).toEqual([64, 64, 3, 8]);
		for (let n = 0; n < 64 * 64; n++)
			for (const [c, own] of texelAt(sheet, n).colour.entries())
				expect(Math.abs(decodeSrgb(colour.data[3 * n + c] / 255) - own)).toBeLessThan(0.005);
		for (const what of ["roughness", "metal"] as const) {
			const { depth, data } = decode(SHEET_FILES[what](sheet));
			expect(depth).toBe(16);
			data.forEach((v, n) => expect(Math.abs(v / 65_535 - texelAt(sheet, n)[what])).toBeLessThan(1e-4));
		}
		const heights = decode(SHEET_FILES.height(sheet));
		const range = sheet.mostMm - sheet.leastMm;
		heights.data.forEach((v, n) => expect(Math.abs(sheet.leastMm + (v / 65_535) * range - mm(n))).toBeLessThan(1e-3));
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
