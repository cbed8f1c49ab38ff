import { describe, expect, it } from "vitest";
import type { Rgb } from "../../core/surface/field.ts";
import { apart, LOOKS_LIKE, type LooksLike, likest, looksOf, looksOfSheet } from "../../core/surface/likeness.ts";
import { firstTexel, type Sheet, texelAt } from "../../core/surface/sheet.ts";
import { SURFACE_KINDS } from "../../core/surface/surfaces.ts";
import { sheetsAtOnce } from "./atOnce.ts";

const sheets = sheetsAtOnce(256);
const sheetOf = (of: (typeof SURFACE_KINDS)[number], seed: number) =>
	sheets(`${of} ${seed}`, { of, seed, texels: 256 }) as Sheet;

describe("what a surface looks like", () => {
	it("is told of each as it is baked (made again by npm run pictures -- slabs)", () => {
		for (const kind of SURFACE_KINDS) {
			const told = LOOKS_LIKE[kind] as LooksLike;
			expect(told, kind).toBeDefined();
			// Another size of texels leaves some fine noise out.
			expect(apart(told, looksOfSheet(sheetOf(kind, 1))), kind).toBeLessThan(1.5);
		}
	});

	it("finds a surface again by a patch of it, from another seed, among the first ten of all, most of them first", () => {
		let first = 0;
		for (const kind of SURFACE_KINDS) {
			const sheet = sheetOf(kind, 7);
			const at = firstTexel(256, 2);
			const pixels = Array.from({ length: 64 * 64 }, (_, n): Rgb => texelAt(sheet, at + n).colour);
			const found = likest(SURFACE_KINDS, looksOf(pixels, 64)).map((one) => one.kind);
			expect(found.slice(0, 10), kind).toContain(kind);
			if (found[0] === kind) first++;
		}
		expect(first / SURFACE_KINDS.length).toBeGreaterThan(0.7);
	});

	it("is by colour alone where nothing is known of a grain, and nothing at all last", () => {
		const snow = likest(SURFACE_KINDS, { colour: [0.84, 0.85, 0.87], coarse: 0, fine: 0 }, true);
		expect(snow[0].kind).toMatch(/snow/);
		expect(snow[snow.length - 1].far).toBeGreaterThan(50);
		const unknown = likest(["nothing" as never, "sand"], { colour: [0, 0, 0], coarse: 0, fine: 0 });
		expect(unknown.map((one) => one.kind)).toEqual(["sand", "nothing"]);
	});
});
