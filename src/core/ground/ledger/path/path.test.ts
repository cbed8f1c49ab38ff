import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../../../doc/defaults.ts";
import { type Ground, LandEntry } from "../../../doc/schema.ts";
import { entryTold, farFromPaths, groundHeight, onPaths } from "../../height.ts";
import { groundTint } from "../../tint.ts";
import { entryOf, newEntry } from "../ledger.ts";
import { besidePath, curveThrough, pathOver } from "./curve.ts";

type Path = Extract<LandEntry, { kind: "path" }>;

const straight: [number, number][] = [
	[0, 40],
	[0, 0],
	[0, -40],
];
const pathOf = (over: Partial<Path> = {}): Path =>
	LandEntry.parse({
		...newEntry("path", "p", 0, 0),
		points: straight,
		widthM: 4,
		crown: 0,
		vergeM: 1,
		ditchM: 0,
		bankDeg: 45,
		grade: 0.1,
		...over,
	}) as Path;
const madeOver = (entry: Path, land: (x: number, z: number) => number) => {
	const maker = entryOf(entry);
	if (!("made" in maker)) throw new Error("A path is told by its line.");
	return maker.made(entry, land, hills);
};
const hills: Ground = { preset: "ridges", seed: 4, heightM: 60 };

describe("a path over the land", () => {
	it("nowhere climbs by more than its grade, whatever the land, and lies on land that is less steep", () => {
		fc.assert(
			fc.property(fc.double({ min: 0.01, max: 0.4, noNaN: true }), fc.integer({ min: 0, max: 99 }), (grade, seed) => {
				const land = (x: number, z: number) => groundHeight({ ...hills, seed }, x, z);
				const samples = pathOver(
					straight.map(([x, z]) => [x * 9 + seed, z * 9]),
					land,
					{ apartM: 1, grade },
				);
				for (let i = 1; i < samples.length; i++) {
					const [a, b] = [samples[i - 1], samples[i]];
					expect(Math.abs(b.heightM - a.heightM)).toBeLessThanOrEqual(grade * (b.alongM - a.alongM) + 1e-9);
				}
			}),
			{ numRuns: 20, seed: 2 },
		);
		const even = pathOver(straight, (_, z) => 0.05 * z, { apartM: 1, grade: 0.1 });
		for (const s of even) expect(s.heightM).toBeCloseTo(0.05 * s.z, 9);
	});
	it("cuts as much as it fills over a single step", () => {
		const samples = pathOver(straight, (_, z) => (z > 0 ? 0 : 6), { apartM: 0.5, grade: 0.1 });
		const cut = Math.max(...samples.map((s) => s.landM - s.heightM));
		const fill = Math.max(...samples.map((s) => s.heightM - s.landM));
		expect(cut).toBeCloseTo(3, 0);
		expect(Math.abs(cut - fill)).toBeLessThan(0.2);
	});
	it("is level across with its crown in the middle, has ditches beside it and banks at their angle", () => {
		// Along a slope that falls to the right by 1 in 2.
		const of = (over: Partial<Path>) => {
			const made = madeOver(pathOf({ ...over }), (x) => 10 - 0.5 * x);
			return (x: number) => made(10 - 0.5 * x, x, 5);
		};
		const plain = of({});
		for (const x of [-2, -1, 0, 1, 2, 3, -3]) expect(plain(x)).toBeCloseTo(10, 6);
		// Banks of 1 in 1: cut on the left, where the land rises, filled on the right.
		expect(plain(-5)).toBeCloseTo(12, 6);
		expect(plain(5)).toBeCloseTo(8, 6);
		expect(plain(-9)).toBeCloseTo(14.5, 6);
		expect(of({ crown: 0.1 })(0)).toBeCloseTo(10.2, 6);
		expect(of({ crown: 0.1 })(2)).toBeCloseTo(10, 6);
		expect(of({ ditchM: 0.4 })(2.5)).toBeCloseTo(9.6, 6);
	});
	it("tears nothing, not in hairpins either", () => {
		const bends: [number, number][] = [
			[-30, 20],
			[30, 12],
			[34, 2],
			[-30, -6],
			[-28, -16],
			[30, -22],
		];
		const land: Ground = { ...hills, ledger: [pathOf({ points: bends, widthM: 3 })] };
		for (let i = 0; i < 900; i++) {
			const [x, z] = [((i * 37) % 140) - 70, ((i * 53) % 100) - 50];
			expect(Math.abs(groundHeight(land, x, z) - groundHeight(land, x + 0.001, z))).toBeLessThan(0.03);
		}
	});
	it("is led into the picture, whichever way that looks", () => {
		for (const headingDeg of [0, 90, -130]) {
			const { points } = newEntry("path", "p", 5, -7, headingDeg) as Path;
			const [right, away] = [Math.sin((headingDeg * Math.PI) / 180), -Math.cos((headingDeg * Math.PI) / 180)];
			const along = points.map(([x, z]) => (x - 5) * right + (z + 7) * away);
			expect(along.map(Math.round)).toEqual([-25, -5, 30]);
		}
	});
	it("goes through its points, smoothly", () => {
		const curve = curveThrough(straight.concat([[30, -60]]), 0.5);
		for (const [x, z] of straight)
			expect(Math.min(...curve.map((p) => Math.hypot(p[0] - x, p[1] - z)))).toBeLessThan(1e-9);
		for (let i = 2; i < curve.length; i++) {
			const turn = (k: number) => Math.atan2(curve[k][1] - curve[k - 1][1], curve[k][0] - curve[k - 1][0]);
			const by = Math.abs(turn(i) - turn(i - 1));
			expect(Math.min(by, 2 * Math.PI - by)).toBeLessThan(0.12);
		}
	});
	it("is found as near as it is, on its own heights", () => {
		const samples = pathOver(straight, () => 3, { apartM: 1, grade: 0.1 });
		const beside = besidePath(samples, 20);
		for (const [x, z] of [
			[0, 0],
			[7, 13.3],
			[-11, -39],
			[5, 44],
		]) {
			const far = Math.hypot(x, Math.max(0, Math.abs(z) - 40));
			expect(beside(x, z)?.farM).toBeCloseTo(far, 6);
			expect(beside(x, z)?.heightM).toBeCloseTo(3, 9);
		}
		expect(beside(60, 0)).toBeNull();
	});
	it("is trodden earth on which nothing grows, and tells what it cuts and fills", () => {
		const land: Ground = { ...hills, preset: "plain", heightM: 0, ledger: [pathOf()] };
		const { water } = blankShot();
		expect(onPaths({ ...land, ledger: [] })).toBeNull();
		expect(onPaths(land)?.(0.5, 7)).toBe(1);
		expect(onPaths(land)?.(4, 7)).toBe(0);
		const colour = (x: number) => groundTint(land, { ...water, on: false }, x, 0, 7, 0).colour;
		expect(colour(0)).not.toEqual(colour(5));
		expect(entryTold(land, "p")).toBe("80 m long");
		const where = [{ kind: "near a place" as const, not: true, x: 0, z: 7, radiusM: 5, featherM: 1 }];
		const partly = onPaths({ ...land, ledger: [pathOf({ where })] });
		expect([partly?.(0, 7), partly?.(0, 30)]).toEqual([0, 1]);
		const step: Ground = {
			...land,
			ledger: [LandEntry.parse({ ...newEntry("level", "l", 0, -40), radiusM: 30, featherM: 2, atM: 6 }), pathOf()],
		};
		expect(entryTold(step, "p")).toMatch(/^80 m long, cuts \d\.\d m deep at \d+ m, lies \d\.\d m high at \d+ m$/);
		expect(entryTold(step, "l")).toBe("");
	});
	it("is worn in by wheels on both sides of its middle, or in its middle where it is too narrow for them", () => {
		const at = (entry: Path, x: number, z: number) => madeOver(entry, () => 0)(0, x, z);
		const worn = pathOf({ rutM: 0.2 });
		let [deepest, shallowest] = [0, 1];
		for (let z = -30; z <= 30; z += 0.5) {
			for (const side of [-1, 1]) {
				deepest = Math.max(deepest, -at(worn, side * 0.72, z));
				shallowest = Math.min(shallowest, -at(worn, side * 0.72, z));
			}
			expect(at(worn, 0, z)).toBeCloseTo(0, 9);
			expect(at(worn, 1.2, z)).toBeCloseTo(0, 9);
		}
		expect(deepest).toBeLessThanOrEqual(0.2);
		expect(deepest).toBeGreaterThan(0.13);
		expect(shallowest).toBeGreaterThan(0.04);
		const narrow = pathOf({ widthM: 1, rutM: 0.2 });
		expect(at(narrow, 0, 5)).toBeLessThan(-0.05);
		expect(at(narrow, 0.5, 5)).toBeCloseTo(0, 9);
	});
	it("has sleepers across it, as far apart as is wanted, of timber and no longer than they are", () => {
		const track = pathOf({ sleepersM: 0.7, laid: "ash" });
		const at = (x: number, z: number) => madeOver(track, () => 0)(0, x, z);
		let raised = 0;
		for (let z = -20; z < 1; z += 0.01) raised += at(0.4, z) > 0.05 ? 1 : 0;
		// 30 of them, 24 cm each.
		expect(raised / 100 / 30 / 0.24).toBeCloseTo(1, 1);
		const middle = Array.from({ length: 70 }, (_, k) => -k / 100).reduce((a, b) => (at(0, b) > at(0, a) ? b : a));
		expect(at(0, middle)).toBeCloseTo(0.1, 3);
		expect(at(1.1, middle)).toBeCloseTo(0.1, 3);
		expect(at(1.4, middle)).toBe(0);
		const land: Ground = { ...hills, preset: "plain", heightM: 0, ledger: [track] };
		const tint = (x: number, z: number) =>
			groundTint(land, { ...blankShot().water, on: false }, x, 0, z, 0).colour.map((v) => Math.round(v * 100));
		expect(tint(0, middle)).not.toEqual(tint(0, middle + 0.35));
		expect(tint(0, middle + 0.35)).not.toEqual(
			groundTint({ ...land, ledger: [pathOf()] }, blankShot().water, 0, 0, middle + 0.35, 0).colour.map((v) =>
				Math.round(v * 100),
			),
		);
	});
	it("lets a path that was there before go on where they meet, with its surface, and cuts through one far below", () => {
		const first = pathOf({ id: "first", laid: "stone", crown: 0.1 });
		const across: Partial<Path> = {
			points: [
				[-40, 0],
				[40, 0],
			],
			widthM: 3,
			ditchM: 0.5,
			rutM: 0.2,
		};
		const flat: Ground = { ...hills, preset: "plain", heightM: 0, ledger: [first] };
		const met: Ground = { ...flat, ledger: [first, pathOf({ id: "second", ...across })] };
		for (let x = -1.4; x <= 1.4; x += 0.1)
			for (let z = -3; z <= 3; z += 0.25) expect(groundHeight(met, x, z)).toBeCloseTo(groundHeight(flat, x, z), 6);
		// Beside it the second has its ditch and its ruts.
		expect(groundHeight(met, 8, 2)).toBeLessThan(-0.3);
		expect(groundHeight(met, 8, 0.72)).toBeLessThan(-0.04);
		const { water } = blankShot();
		const tint = (of: Ground, x: number, z: number) => groundTint(of, { ...water, on: false }, x, 0, z, 0).colour;
		expect(tint(met, 0, 0)).toEqual(tint(flat, 0, 0));
		expect(tint(met, 8, 0)).not.toEqual(tint(flat, 8, 0));
		// Nothing tears on the way over.
		for (let x = -6; x < 6; x += 0.05)
			for (const z of [0, 0.7, 1.6, 2.2])
				expect(Math.abs(groundHeight(met, x, z) - groundHeight(met, x + 0.001, z))).toBeLessThan(0.004);
		const high = pathOf({ id: "high", ...across, ditchM: 0, rutM: 0 });
		// Buried under five metres the elder one is no path to meet: the later one cuts through as if it were not there.
		const mound = LandEntry.parse({ ...newEntry("level", "l", 0, 0), radiusM: 6, featherM: 2, atM: 5 });
		const deep = (ledger: LandEntry[]) => groundHeight({ ...flat, ledger }, 0, 0);
		expect(deep([first, mound, high])).toBeLessThan(3.5);
		expect(deep([first, mound, high])).toBeCloseTo(deep([mound, high]), 6);
	});
	it("tells how far a place lies from the edge of the nearest path", () => {
		const other = pathOf({
			id: "q",
			points: [
				[30, 40],
				[30, -40],
			],
			widthM: 2,
		});
		const far = farFromPaths({ ...hills, ledger: [pathOf(), other] });
		expect(far?.(10, 5)).toBeCloseTo(8, 9);
		expect(far?.(25, 5)).toBeCloseTo(4, 9);
		expect(far?.(1, 5)).toBe(0);
		expect(far?.(4000, 5)).toBe(Number.POSITIVE_INFINITY);
		expect(farFromPaths({ ...hills, ledger: [pathOf({ out: true })] })).toBeNull();
	});
});
