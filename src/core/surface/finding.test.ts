import { describe, expect, it } from "vitest";
import { newPiece } from "../doc/defaults.ts";
import { Laid, LaidOver } from "../doc/schema.ts";
import { foundBy } from "./finding.ts";
import { laidAsMade, laidOnAll, laidOver } from "./laying.ts";
import { programOf } from "./program.ts";
import { sheetName } from "./sheetName.ts";
import { SURFACE_KINDS, SURFACES } from "./surfaces.ts";

describe("surfaces", () => {
	it("are at least sixty, six of them rock, and all are found by nothing", () => {
		expect(SURFACE_KINDS.length).toBeGreaterThanOrEqual(60);
		expect(SURFACE_KINDS.filter((kind) => SURFACES[kind].family === "rock").length).toBeGreaterThanOrEqual(6);
		expect([...foundBy("")].sort()).toEqual(SURFACE_KINDS);
	});

	it("are found by name, place, kind and colour, by the beginnings of words and all of them together", () => {
		expect(foundBy("brick")).toEqual(expect.arrayContaining(["brick", "whitewashed brick", "mud brick"]));
		expect(foundBy("Roof")).toEqual(expect.arrayContaining(["thatch", "slates", "pantiles"]));
		expect(foundBy("white wall")).toContain("whitewashed brick");
		expect(foundBy("white wall")).not.toContain("snow");
		expect(foundBy("no such thing")).toEqual([]);
	});

	it("lie as they are made, as documents hold it", () => {
		for (const kind of SURFACE_KINDS) {
			expect(Laid.parse(laidAsMade(kind))).toMatchObject({ of: kind, acrossM: SURFACES[kind].sideM });
			expect(LaidOver.parse(laidOver(kind)).where).toHaveLength(1);
		}
	});

	it("are the same on several pieces, none, or differ", () => {
		const piece = (laid: Laid | null) => ({ surface: { ...newPiece("", "box").surface, laid } });
		const sand = laidAsMade("sand");
		expect(laidOnAll([piece(sand), piece({ ...sand })])).toEqual(sand);
		expect(laidOnAll([piece(null), { surface: newPiece("", "box").surface }])).toBeNull();
		expect(laidOnAll([piece(sand), piece(null)])).toBeUndefined();
	});

	it("are kept by names that tell all that they are made from", () => {
		const of = { of: "sand" as const, seed: 1, texels: 64 };
		expect(sheetName(of)).toMatch(/^[0-9a-f]{32}$/);
		expect(sheetName({ ...of })).toBe(sheetName(of));
		const all = SURFACE_KINDS.map((kind) => sheetName({ ...of, of: kind }));
		expect(new Set([...all, sheetName({ ...of, seed: 2 }), sheetName({ ...of, texels: 128 })]).size).toBe(
			all.length + 2,
		);
	});

	it("are programs that read nothing before it is written, and of few places", () => {
		for (const kind of SURFACE_KINDS) {
			const { passes, places } = programOf(SURFACES[kind], 1);
			expect(places, kind).toBeLessThan(60);
			for (const { steps, kept } of passes) {
				const written = new Set<number>();
				for (const { from, to } of steps) {
					for (const place of from) expect(written.has(place), kind).toBe(true);
					for (const place of to) written.add(place);
				}
				for (const { from } of kept) expect(written.has(from)).toBe(true);
			}
		}
	});
});
