import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../../doc/defaults.ts";
import { applyEdit } from "../../doc/edits.ts";
import { type Ground, LandEntry, LandWhere } from "../../doc/schema.ts";
import { hash32 } from "../../maths/hash.ts";
import { groundHeight } from "../height.ts";
import { ENTRIES, entryOf, ledgerOf, newEntry, weightOf } from "./ledger.ts";
import { whereSentence } from "./where.ts";

type Kind = LandEntry["kind"];
const KINDS = Object.keys(ENTRIES) as Kind[];
const usual = (kind: Kind, over: object = {}): LandEntry =>
	LandEntry.parse({ ...newEntry(kind, kind, 10, -40), ...over });
const hills: Ground = { preset: "plain", seed: 2, heightM: 30 };
/** About the place that entries are taken in for, and far around. */
const places = Array.from({ length: 400 }, (_, i) => {
	const wide = i % 8 ? 1000 : 20;
	return [10 + wide * (hash32(i) / 2 ** 31 - 1), -40 + wide * (hash32(i + 7777) / 2 ** 31 - 1)];
});
const heights = (ledger: LandEntry[], ground = hills) =>
	places.map(([x, z]) => groundHeight({ ...ground, ledger }, x, z));

describe.each(KINDS)("the entry %s of the land's ledger", (kind) => {
	const { fields, act, sentence, made } = entryOf({ kind });

	it("is taken in by a document, in words of its own", () => {
		expect(usual(kind).kind).toBe(kind);
		const acts = KINDS.map((k) => entryOf({ kind: k }).act);
		expect(acts.filter((other) => other === act)).toHaveLength(1);
	});

	it("is a sentence at both ends of each number that a person sets, and documents hold them", () => {
		for (const { value, min, max, times = 1 } of fields)
			for (const end of [min, max])
				expect(sentence(LandEntry.parse({ ...usual(kind), [value]: end / times }))).not.toMatch(/NaN|undefined/);
	});

	it("changes the land, the same again for the same numbers, and not at all where it is struck out", () => {
		const before = heights([]);
		const after = heights([usual(kind)]);
		expect(after.filter((h, i) => Math.abs(h - before[i]) > 0.05).length).toBeGreaterThan(0);
		expect(heights([usual(kind)])).toEqual(after);
		expect(heights([usual(kind, { out: true })])).toEqual(before);
		expect(after.every(Number.isFinite)).toBe(true);
	});

	it("tears nothing: places a millimetre apart are about as high", () => {
		const change = made(usual(kind));
		for (const [x, z] of places) {
			const at = (px: number) => change(groundHeight(hills, px, z), px, z);
			expect(Math.abs(at(x) - at(x + 0.001))).toBeLessThan(0.03);
		}
	});

	it("does its part where it holds in part", () => {
		const where: LandWhere[] = [{ kind: "near a place", not: false, x: 0, z: 0, radiusM: 300, featherM: 100 }];
		const [none, all, some] = [heights([]), heights([usual(kind)]), heights([usual(kind, { where })])];
		for (const [i, [x, z]] of places.entries()) {
			const far = Math.hypot(x, z);
			if (far < 300) expect(some[i]).toBeCloseTo(all[i], 9);
			else if (far > 400) expect(some[i]).toBe(none[i]);
			else expect(Math.abs(some[i] - none[i])).toBeLessThanOrEqual(Math.abs(all[i] - none[i]) + 1e-9);
		}
	});
});

describe("the land's ledger", () => {
	it("tells the oldest first: a place that is levelled is level, unless it swelled afterwards", () => {
		const level = usual("level", { x: 0, z: 0, radiusM: 20, featherM: 5, atM: 3 });
		const swell = usual("swell", { heightM: 10, sizeM: 15 });
		const spread = (ledger: LandEntry[]) => {
			const all = Array.from({ length: 50 }, (_, i) =>
				groundHeight({ ...hills, ledger }, (i % 7) * 2 - 6, (i % 5) * 3 - 6),
			);
			return Math.max(...all) - Math.min(...all);
		};
		expect(groundHeight({ ...hills, ledger: [swell, level] }, 3, -4)).toBe(3);
		expect(spread([swell, level])).toBe(0);
		expect(spread([level, swell])).toBeGreaterThan(1);
	});
	it("has steps of the height that is told, treads nearly level", () => {
		const slope = (x: number) => ledgerOf([usual("bench", { everyM: 5, riser: 0.2, wander: 0 })])(x * 0.5, x, 0);
		for (let k = 0; k < 6; k++) expect(slope(10 * k)).toBeCloseTo(5 * k, 9);
		expect((slope(7) - slope(1)) / 6).toBeLessThan(0.05);
	});
	it("slides as much down as is missing above", () => {
		const slid = usual("slump", { share: 1, headingDeg: 180, sizeM: 40, dropM: 6 });
		const change = entryOf(slid).made(slid);
		let [sum, gone] = [0, 0];
		for (let x = -400; x < 400; x += 2)
			for (let z = -400; z < 400; z += 2) {
				const by = change(0, x, z);
				sum += by;
				gone += Math.max(0, -by);
			}
		expect(gone).toBeGreaterThan(10_000);
		expect(Math.abs(sum) / gone).toBeLessThan(0.1);
	});
	it("lies at its own level, ledger and all", () => {
		const ledger = [usual("bench"), usual("level", { atM: 2 })];
		expect(groundHeight({ ...hills, ledger, levelM: -4 }, 10, -40)).toBeCloseTo(-2, 9);
	});
	it("weighs by all of its sentences, and by what they are not", () => {
		const near = LandWhere.parse({ kind: "near a place", not: false, x: 5, z: 0, radiusM: 10, featherM: 10 });
		const high = LandWhere.parse({ kind: "between heights", not: false, fromM: 10, toM: 20, featherM: 2 });
		expect(weightOf([])).toBeNull();
		const both = weightOf([near, { ...high, not: true }]);
		expect(both?.(0, 5, 0)).toBe(1);
		expect(both?.(15, 5, 0)).toBe(0);
		expect(both?.(0, 20, 0)).toBeCloseTo(0.5, 9);
		expect(whereSentence({ ...high, not: true })).toBe("not between 10 and 20 m");
	});
	it("holds in patches on about the share that is told", () => {
		fc.assert(
			fc.property(fc.double({ min: 0.15, max: 0.85, noNaN: true }), fc.integer({ min: 0, max: 999 }), (share, seed) => {
				const weight = weightOf([{ kind: "in patches", not: false, sizeM: 4, share, seed }]);
				let sum = 0;
				for (let i = 0; i < 4000; i++) sum += weight?.(0, (hash32(i) % 10000) / 5, (hash32(i + 5) % 10000) / 5) ?? 0;
				expect(Math.abs(sum / 4000 - share)).toBeLessThan(0.2);
			}),
			{ numRuns: 12, seed: 3 },
		);
	});
	it("does not change with the lens: heights at a thousand places stay when the camera moves", () => {
		const doc = applyEdit(blankShot(), { name: "ground.addEntry", entry: usual("fold") }).document;
		const at = (d: typeof doc) =>
			Array.from({ length: 1000 }, (_, i) =>
				groundHeight(d.ground, (hash32(i) % 8000) - 4000, (hash32(i + 99) % 8000) - 4000),
			);
		const moved = applyEdit(doc, {
			name: "camera.place",
			position: [300, 40, -900],
			headingDeg: 70,
			pitchDeg: -4,
			rollDeg: 0,
		});
		expect(at(moved.document)).toEqual(at(doc));
	});
});
