import { describe, expect, it } from "vitest";
import { blankShot } from "./defaults.ts";
import { migrated, upgrade } from "./migrations.ts";
import { DOCUMENT_VERSION, ShotDocument } from "./schema.ts";

/** A document as version 1 had it. */
function ofVersion1() {
	const { pieces, lamps: _, ...doc } = blankShot();
	return {
		...doc,
		version: 1,
		pieces: pieces.map(({ shape, pitchDeg: _p, rollDeg: _r, ...piece }, i) => ({
			...piece,
			kind: shape.kind,
			leanDeg: i % 2 ? 12.5 : 0,
		})),
	};
}

describe("documents of earlier days", () => {
	it("are as the present schema has them", () => {
		const now = upgrade(ofVersion1());
		expect(ShotDocument.parse(now)).toEqual(now);
		expect(now.lamps).toEqual([]);
		expect(now.pieces.map((p) => p.shape)).toEqual(blankShot().pieces.map((p) => p.shape));
	});
	it("keep how their pieces lean: what went away from the lens is a pitch that lowers the away side", () => {
		const now = upgrade(ofVersion1());
		expect(now.pieces.map((p) => p.pitchDeg)).toEqual(now.pieces.map((_, i) => (i % 2 ? -12.5 : 0)));
		expect(now.pieces.every((p) => p.rollDeg === 0)).toBe(true);
	});
	it("are not touched, nor are those of today", () => {
		const old = ofVersion1();
		const before = structuredClone(old);
		upgrade(old);
		expect(old).toEqual(before);
		const today = blankShot();
		expect(upgrade(today)).toBe(today);
	});
	it("of a later version are refused in words", () => {
		expect(() => migrated({ ...blankShot(), version: DOCUMENT_VERSION + 1 }, DOCUMENT_VERSION)).toThrow(
			/version 4; it cannot be taken back/,
		);
	});
});
