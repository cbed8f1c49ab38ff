import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../../doc/defaults.ts";
import { applyEdit } from "../../doc/edits.ts";
import { type Ground, LandEntry, LandWhere } from "../../doc/schema.ts";
import { hash32 } from "../../maths/hash.ts";
import { changeAt, holdField, type LandField } from "../field.ts";
import { coarseGround, groundHeight, landNeeds } from "../height.ts";
import { holdPicture } from "../pictures.ts";
import type { Step } from "./entry.ts";
import { ENTRIES, entryOf, newEntry, weightOf } from "./ledger.ts";
import { whereSentence } from "./where.ts";

type Kind = LandEntry["kind"];
const KINDS = Object.keys(ENTRIES) as Kind[];
const LEVEL = { land: () => 0, farFromPaths: () => null };
/** A picture of heights for entries that are laid by one, kept here as if it had been read. */
const file = { file: "a".repeat(64), name: "hills", widthPx: 64, heightPx: 48, bits: 16 };
holdPicture(
	{ ...file, as: "heights" },
	{ width: 64, height: 48, values: Float32Array.from({ length: 64 * 48 }, (_, at) => 0.5 + 0.4 * Math.sin(at / 64)) },
);
const usual = (kind: Kind, over: object = {}): LandEntry => {
	const entry = newEntry(kind, kind, 10, -40);
	const laid = "files" in entry ? { files: { ...entry.files, heights: file } } : {};
	const near = kind === "behind" ? { radiusM: 100, featherM: 200 } : kind === "pond" ? { digM: 3 } : {};
	return LandEntry.parse({ ...entry, ...laid, ...near, ...over });
};
const hills: Ground = { preset: "plain", seed: 2, heightM: 30 };
function madeBy(entry: LandEntry): Step {
	const maker = entryOf(entry);
	if (!("made" in maker)) throw new Error(`${entry.kind} is not told by one place.`);
	return maker.made(entry, () => 0, hills);
}
/** About the place that entries are taken in for, and far around. */
const places = Array.from({ length: 400 }, (_, i) => {
	const wide = i % 8 ? 1000 : 20;
	return [10 + wide * (hash32(i) / 2 ** 31 - 1), -40 + wide * (hash32(i + 7777) / 2 ** 31 - 1)];
});
const heights = (ledger: LandEntry[], ground = hills) =>
	places.map(([x, z]) => groundHeight({ ...ground, ledger }, x, z));

describe.each(KINDS)("the entry %s of the land's ledger", (kind) => {
	const { fields, act, sentence } = entryOf({ kind });

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
});

describe.each(KINDS.filter((kind) => "made" in entryOf({ kind })))("the entry %s, told by one place alone", (kind) => {
	it("changes the land, the same again for the same numbers, and not at all where it is struck out", () => {
		const before = heights([]);
		const after = heights([usual(kind)]);
		// What is pushed aside keeps its heights.
		const pushes = "pushes" in entryOf({ kind });
		expect(after.some((h, i) => Math.abs(h - before[i]) > 0.05)).toBe(!pushes);
		expect(heights([usual(kind)])).toEqual(after);
		expect(heights([usual(kind, { out: true })])).toEqual(before);
		expect(after.every(Number.isFinite)).toBe(true);
	});

	it("tears nothing: places a millimetre apart are about as high", () => {
		const change = madeBy(usual(kind));
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
		const slope = (x: number) => madeBy(usual("bench", { everyM: 5, riser: 0.2, wander: 0 }))(x * 0.5, x, 0);
		for (let k = 0; k < 6; k++) expect(slope(10 * k)).toBeCloseTo(5 * k, 9);
		expect((slope(7) - slope(1)) / 6).toBeLessThan(0.05);
	});
	it("slides as much down as is missing above", () => {
		const slid = usual("slump", { share: 1, headingDeg: 180, sizeM: 40, dropM: 6 });
		const change = madeBy(slid);
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
		expect(weightOf([], LEVEL)).toBeNull();
		const both = weightOf([near, { ...high, not: true }], LEVEL);
		expect(both?.(0, 5, 0)).toBe(1);
		expect(both?.(15, 5, 0)).toBe(0);
		expect(both?.(0, 20, 0)).toBeCloseTo(0.5, 9);
		expect(whereSentence({ ...high, not: true })).toBe("not between 10 and 20 m");
	});
	it("holds on slopes by the land before it, and beside paths that were laid before", () => {
		const slopes = LandWhere.parse({ kind: "on slopes", not: false, fromDeg: 30, toDeg: 60, featherDeg: 5, overM: 2 });
		const on = (deg: number) =>
			weightOf([slopes], { ...LEVEL, land: (x) => x * Math.tan((deg * Math.PI) / 180) })?.(0, 7, 3);
		expect([10, 24, 31, 59].map(on)).toEqual([0, 0, 1, 1]);
		expect(on(66)).toBeCloseTo(0, 9);
		expect(on(27.5)).toBeCloseTo(0.5, 1);
		const path = usual("path", {
			id: "p",
			widthM: 4,
			points: [
				[0, -50],
				[0, 50],
			],
		});
		const where = [LandWhere.parse({ kind: "beside paths", not: false, fromM: 0, toM: 5, featherM: 1 })];
		const swell = usual("swell", { heightM: 8, sizeM: 20, where });
		const swollen = (ledger: LandEntry[], x: number) =>
			groundHeight({ ...hills, heightM: 0, ledger }, x, 3) !==
			groundHeight({ ...hills, heightM: 0, ledger: ledger.filter((e) => e.kind === "path") }, x, 3);
		expect([1, 6, 12].map((x) => swollen([path, swell], x))).toEqual([true, true, false]);
		expect([1, 6, 12].map((x) => swollen([swell, path], x))).toEqual([false, false, false]);
	});
	it("holds in patches on about the share that is told", () => {
		fc.assert(
			fc.property(fc.double({ min: 0.15, max: 0.85, noNaN: true }), fc.integer({ min: 0, max: 999 }), (share, seed) => {
				const weight = weightOf([{ kind: "in patches", not: false, sizeM: 4, share, seed }], LEVEL);
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

const WORN = KINDS.filter((kind) => "worn" in entryOf({ kind }));

describe.each(WORN)("the entry %s, made over a square", (kind) => {
	const level = usual("level", { id: "l", atM: 2 });
	const worn = usual(kind, { id: `w-${kind}`, x: 10, z: -40, radiusM: 100, featherM: 50, fineness: 7 });
	/** A field that lowers all of it by as much. */
	const flat = (ground: Ground, byM: number, n = 0): LandField => {
		const { x0, z0, stepM, cells } = landNeeds(ground)[n];
		return { x0, z0, stepM, cells, changeM: new Float32Array(cells * cells).fill(-byM) };
	};

	it("asks for a square of its own, by the land before it and by nothing after it", () => {
		const [need, ...more] = landNeeds({ ...hills, ledger: [level, worn] });
		expect(more).toEqual([]);
		expect(need).toMatchObject({ id: `w-${kind}`, x0: -140, z0: -190, cells: 128 });
		expect(need.stepM * need.cells).toBeCloseTo(300, 9);
		const key = (ledger: LandEntry[], over: Partial<Ground> = {}) => landNeeds({ ...hills, ...over, ledger })[0].key;
		expect(key([level, worn, usual("swell")])).toBe(need.key);
		expect(key([level, worn], { levelM: 7 })).toBe(need.key);
		expect(key([{ ...level, id: "other" }, worn])).toBe(need.key);
		expect(key([worn])).not.toBe(need.key);
		expect(key([level, worn], { seed: 3 })).not.toBe(need.key);
		expect(landNeeds({ ...hills, ledger: [level, { ...worn, out: true }] })).toEqual([]);
		expect(need.before(10, -40)).toBe(groundHeight({ ...hills, ledger: [level] }, 10, -40));
	});
	it("is what its square tells, within its place, and what came before without it", () => {
		const ground = { ...hills, seed: 11, ledger: [worn] };
		const bare = groundHeight({ ...hills, seed: 11 }, 20, -30);
		expect(groundHeight(ground, 20, -30)).toBe(bare);
		holdField(landNeeds(ground)[0].key, `w-${kind}`, flat(ground, 4));
		expect(groundHeight(ground, 20, -30)).toBeCloseTo(bare - 4, 9);
		expect(groundHeight(ground, 200, -30)).toBe(groundHeight({ ...hills, seed: 11 }, 200, -30));
		const edge = Array.from({ length: 500 }, (_, i) => 100 + 0.2 * i).map(
			(x) => groundHeight(ground, x, -40) - groundHeight({ ...hills, seed: 11 }, x, -40),
		);
		for (const [i, d] of edge.entries()) expect(Math.abs(d - edge[Math.max(0, i - 1)])).toBeLessThan(0.05);
	});
	it("has an older square of its own stand in until its own is made, and is coarse while a hand waits", () => {
		const fine = { ...worn, fineness: 9 } as LandEntry;
		const ground = { ...hills, seed: 12, ledger: [fine] };
		const coarse = coarseGround(ground);
		expect(landNeeds(coarse)[0]).toMatchObject({ cells: 128, x0: landNeeds(ground)[0].x0 });
		const bare = groundHeight({ ...hills, seed: 12 }, 10, -40);
		holdField(landNeeds(coarse)[0].key, `w-${kind}`, flat(coarse, 1));
		expect(groundHeight(ground, 10, -40)).toBeCloseTo(bare - 1, 9);
		holdField(landNeeds(ground)[0].key, `w-${kind}`, flat(ground, 3));
		expect(groundHeight(ground, 10, -40)).toBeCloseTo(bare - 3, 9);
		expect(coarseGround(ground)).toBe(ground);
	});
});

describe("a field of the land", () => {
	const field: LandField = {
		x0: -8,
		z0: 4,
		stepM: 0.5,
		cells: 32,
		changeM: Float32Array.from({ length: 1024 }, (_, at) => 3 * (at % 32) - Math.floor(at / 32)),
	};
	it("is a plane where its cells are", () => {
		for (const [x, z] of [
			[-3.1, 9.7],
			[0.2, 12.3],
			[4.75, 7],
		])
			expect(changeAt(field, x, z)).toBeCloseTo(3 * ((x + 8) / 0.5 - 0.5) - ((z - 4) / 0.5 - 0.5), 4);
	});
	it("is nothing beyond its cells", () => {
		expect([
			changeAt(field, -9, 8),
			changeAt(field, 8.5, 8),
			changeAt(field, 0, 20.5),
			changeAt(field, Number.NaN, 8),
		]).toEqual([0, 0, 0, 0]);
	});
});
