import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Ground, LandEntry, Stroke } from "../../../doc/schema.ts";
import { groundHeight } from "../../height.ts";
import { farFromLine, strokesAbout, TOOLS, withPoint } from "./strokes.ts";

const ground = (strokes: Partial<Stroke>[], over: Partial<Ground> = {}): Ground => ({
	preset: "plain",
	seed: 2,
	heightM: 0,
	...over,
	ledger: [
		LandEntry.parse({
			kind: "hand",
			id: "h",
			out: false,
			where: [],
			strokes: strokes.map((s) => ({ tool: "raise", points: [[0, 0]], radiusM: 10, byM: 2, ...s })),
		}),
	],
});
const at = (strokes: Partial<Stroke>[], x: number, z: number, over?: Partial<Ground>) =>
	groundHeight(ground(strokes, over), x, z);
const path: [number, number][] = [
	[-20, 0],
	[0, 0],
	[20, 10],
];

describe("strokes of the hand over the land", () => {
	it("are as high in their middle as they say, all along, and nothing at their rim", () => {
		for (const [x, z] of path) expect(at([{ points: path }], x, z)).toBeCloseTo(2, 9);
		expect(at([{ points: path }], -10, 0)).toBeCloseTo(2, 9);
		expect(at([{ points: path }], -10, -10)).toBe(0);
		expect(at([{ points: path, tool: "lower" }], -20, 0)).toBeCloseTo(-2, 9);
		expect(at([{ tool: "pull", byM: 9 }], 0, 0)).toBeCloseTo(9, 9);
		expect(at([{ tool: "pull", byM: 9 }], 5, 0)).toBeLessThan(at([{ tool: "raise", byM: 9 }], 5, 0));
	});
	it("follow each other: what was raised is flattened to a level, and level over the middle", () => {
		const both: Partial<Stroke>[] = [{}, { tool: "flatten", levelM: 0.5 }];
		for (const x of [0, 2, 5]) expect(at(both, x, 0)).toBeCloseTo(0.5, 9);
		expect(at([...both].reverse(), 0, 0)).toBeCloseTo(2.5, 9);
	});
	it("smooth what they have raised themselves, and a plane stays a plane", () => {
		const hill: Partial<Stroke> = { byM: 6, radiusM: 6 };
		const smooth: Partial<Stroke> = { tool: "smooth", radiusM: 12 };
		const once = at([hill, smooth], 0, 0);
		expect(once).toBeLessThan(4.5);
		expect(at([hill, smooth, smooth], 0, 0)).toBeLessThan(once + 1e-9);
		expect(at([smooth], 3, 1)).toBeCloseTo(0, 9);
	});
	it("stamp rock that stands out by no more than they say, another by another seed", () => {
		const rock = (seed: number) =>
			Array.from({ length: 60 }, (_, i) => at([{ tool: "relief", byM: 3, seed }], (i % 8) - 4, Math.floor(i / 8) - 4));
		expect(Math.max(...rock(1))).toBeLessThanOrEqual(3);
		expect(Math.max(...rock(1)) - Math.min(...rock(1))).toBeGreaterThan(0.4);
		expect(rock(1)).not.toEqual(rock(2));
	});
	it("are found where they reach: with many of them the land is what all of them make", () => {
		fc.assert(
			fc.property(fc.integer({ min: 6, max: 60 }), fc.integer({ min: 0, max: 999 }), (count, seed) => {
				const strokes = Array.from({ length: count }, (_, i) =>
					Stroke.parse({
						tool: Stroke.shape.tool.options[(i * 5 + seed) % 6],
						points: [
							[((i * 37 + seed) % 200) - 100, ((i * 53) % 200) - 100],
							[((i * 71 + seed) % 200) - 100, ((i * 29) % 200) - 100],
						],
						radiusM: 1 + ((i * 13 + seed) % 60),
						byM: 1,
					}),
				);
				const about = strokesAbout(strokes);
				for (let k = 0; k < 40; k++) {
					const [x, z] = [((k * 41 + seed) % 300) - 150, ((k * 67) % 300) - 150];
					const reach = strokes.flatMap((s, n) => (farFromLine(s)(x, z) < s.radiusM ? [n] : []));
					expect(about(x, z).filter((n) => reach.includes(n))).toEqual(reach);
				}
			}),
			{ numRuns: 25, seed: 4 },
		);
	});
	it("tear nothing, whatever the tool", () => {
		for (const tool of Stroke.shape.tool.options)
			for (let i = 0; i < 120; i++) {
				const [x, z] = [((i * 7) % 44) - 22, ((i * 13) % 30) - 12];
				const strokes = [{}, { tool, points: path, byM: 4 }];
				expect(Math.abs(at(strokes, x, z) - at(strokes, x + 0.001, z))).toBeLessThan(0.02);
			}
		expect(Object.keys(TOOLS).sort()).toEqual([...Stroke.shape.tool.options].sort());
	});
	it("take places that lie apart, and no more than they may", () => {
		const one = withPoint([], [1.23456, 2], 8, 3);
		expect(one).toEqual([[1.235, 2]]);
		expect(withPoint(one, [2, 2], 8, 3)).toBe(one);
		const three = [10, 20, 30].reduce<readonly [number, number][]>((p, x) => withPoint(p, [x, 0], 8, 3), []);
		expect(withPoint(three, [90, 0], 8, 3)).toBe(three);
	});
});
