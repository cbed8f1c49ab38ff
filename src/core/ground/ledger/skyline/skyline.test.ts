import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot } from "../../../doc/defaults.ts";
import { type Camera, type Ground, LandEntry } from "../../../doc/schema.ts";
import { frameOfView, project, rayThrough } from "../../../lens/camera.ts";
import { hash01 } from "../../../maths/hash.ts";
import { entryTold, groundHeight } from "../../height.ts";
import { groundMeshForLens } from "../../meshForLens.ts";
import { radiusOf, sunkM } from "../../planet.ts";
import { outlineOf } from "../../testing.ts";
import type { Point } from "../../underPoint.ts";
import { newEntry } from "../ledger.ts";
import { fewerPoints, skylineOf } from "./drawn.ts";
import { lineAt } from "./entry.ts";

const WIDTH = 1920;
const camera = (over: Partial<Camera> = {}): Camera => ({
	...blankShot().camera,
	position: [12, 3, -5],
	headingDeg: 25,
	pitchDeg: 4,
	rollDeg: 0,
	...over,
});
/** A ridge over the frame, drawn by a hand. */
const ridge = (seed: number): Point[] =>
	Array.from({ length: 41 }, (_, i) => ({
		x: 0.05 + 0.9 * (i / 40),
		y: 0.34 + 0.07 * Math.sin(i / 5 + seed) + 0.02 * Math.sin(i / 1.3 + 2 * seed) + 0.01 * hash01(i, seed),
	}));
function met(drawn: Point[], lens: Camera, ground: Ground, over: object = {}): Ground {
	const line = skylineOf(frameOfView(lens), drawn, 120);
	const entry = LandEntry.parse({
		...newEntry("skyline", "sky", 0, 0),
		eye: lens.position,
		line,
		distanceM: 900,
		fadeDeg: 4,
		...over,
	});
	return { ...ground, ledger: [...(ground.ledger ?? []), entry] };
}
const LANDS: Ground[] = [
	{ preset: "plain", seed: 3, heightM: 6 },
	{ preset: "ridges", seed: 5, heightM: 200 },
	{ preset: "moor", seed: 2, heightM: 60 },
];

/** Height of the frame, pixels from the top, at which the land ends in the direction of a place of the frame. */
function skylinePx(ground: Ground, lens: Camera, x: number, y: number): number {
	const view = frameOfView(lens);
	const [dx, , dz] = rayThrough(view, x, y);
	const long = Math.hypot(dx, dz);
	let top = Number.POSITIVE_INFINITY;
	const [ex, , ez] = lens.position;
	for (let k = 0; k <= 1500; k++) {
		const far = 200 * 100 ** (k / 1500);
		const [px, pz] = [ex + (far * dx) / long, ez + (far * dz) / long];
		top = Math.min(top, project(view, [px, groundHeight(ground, px, pz) - sunkM(radiusOf(ground), far), pz]).y);
	}
	return (top * WIDTH) / lens.ratio;
}
/** Where the drawn line lies over a place of the frame's width. */
function drawnPx(drawn: Point[], lens: Camera, x: number): number {
	const i = drawn.findIndex((p) => p.x >= x);
	const [a, b] = [drawn[i - 1], drawn[i]];
	return ((a.y + ((b.y - a.y) * (x - a.x)) / (b.x - a.x)) * WIDTH) / lens.ratio;
}

describe("a skyline drawn over the frame", () => {
	it("is met within a pixel and what was left out of the drawn line, over any land", () => {
		for (const [n, ground] of LANDS.entries())
			for (const lens of [camera(), camera({ position: [0, 40, 0], headingDeg: -170, pitchDeg: -2 })]) {
				const drawn = ridge(n + 1);
				const land = met(drawn, lens, ground);
				for (let k = 0; k < 40; k++) {
					const x = 0.08 + 0.84 * (k / 39);
					// What a simpler line leaves out lies within 0.04 % of the height: half a pixel here.
					expect(
						Math.abs(
							skylinePx(land, lens, x, (drawnPx(drawn, lens, x) * lens.ratio) / WIDTH) - drawnPx(drawn, lens, x),
						),
						`${ground.preset} at ${x}`,
					).toBeLessThan(1);
				}
			}
	});
	it("is met by the triangles of the print as well, within a pixel of its line", () => {
		const lens = camera();
		const land = met(ridge(2), lens, LANDS[1]);
		const entry = land.ledger?.[0] as Extract<LandEntry, { kind: "skyline" }>;
		const { tanX } = frameOfView(lens);
		const [x, y, z] = lens.position;
		const { headingDeg } = lens;
		const foot = { x, y, z, headingDeg, halfFieldDeg: 30, pixel: (2 * tanX) / WIDTH };
		const at = lineAt(entry);
		const [from, to] = [entry.line[0][0] + 0.2, entry.line[entry.line.length - 1][0] - 0.2];
		const headings = Array.from({ length: 200 }, (_, i) => from + ((to - from) * i) / 199);
		const { mesh } = groundMeshForLens(land, blankShot().water, [foot]);
		const rises = outlineOf(mesh, foot, headings, 250);
		for (const [i, heading] of headings.entries())
			expect(Math.abs(rises[i] - at(heading).rise) / foot.pixel).toBeLessThan(1);
	});
	it("keeps the land's own form behind it and far aside, and leaves the foreground alone", () => {
		const lens = camera();
		const land = met(ridge(1), lens, LANDS[1]);
		const at = (far: number, headingDeg: number): [number, number] => [
			12 + far * Math.sin((headingDeg * Math.PI) / 180),
			-5 - far * Math.cos((headingDeg * Math.PI) / 180),
		];
		for (const [far, heading] of [
			[30, 25],
			[60, 20],
			[900, 140],
			[900, -80],
		])
			expect(groundHeight(land, ...at(far, heading))).toBe(groundHeight(LANDS[1], ...at(far, heading)));
		const own = Array.from({ length: 50 }, (_, i) => groundHeight(land, ...at(960 + 3 * i, 24)));
		expect(new Set(own.map((h) => h.toFixed(2))).size).toBeGreaterThan(30);
	});
	it("is straight between two points in the picture, and does not change when the lens moves on", () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0.05, max: 0.5, noNaN: true }),
				fc.double({ min: 0.05, max: 0.5, noNaN: true }),
				(a, b) => {
					const lens = camera({ rollDeg: 6 });
					const drawn = [
						{ x: 0.1, y: a },
						{ x: 0.9, y: b },
					];
					const view = frameOfView(lens);
					const line = skylineOf(view, drawn, 120);
					if (!line) throw new Error("There is no line.");
					const at = lineAt({ line, fadeDeg: 3 });
					for (let k = 1; k < 10; k++) {
						const heading = line[0][0] + ((line[line.length - 1][0] - line[0][0]) * k) / 10;
						const rad = (heading * Math.PI) / 180;
						const [ex, ey, ez] = lens.position;
						const p = project(view, [ex + 500 * Math.sin(rad), ey + 500 * at(heading).rise, ez - 500 * Math.cos(rad)]);
						expect(p.y).toBeCloseTo(a + ((b - a) * (p.x - 0.1)) / 0.8, 6);
					}
				},
			),
			{ numRuns: 30, seed: 5 },
		);
	});
	it("tells how near it is met, and refuses what is no line", () => {
		const land = met(ridge(1), camera(), LANDS[2]);
		expect(entryTold(land, "sky")).toMatch(/^meets the line within 0\.\d m at its distance$/);
		expect(skylineOf(frameOfView(camera()), [{ x: 0.4, y: 0.4 }], 120)).toBeNull();
		expect(
			skylineOf(
				frameOfView(camera()),
				[
					{ x: 0.4, y: 0.2 },
					{ x: 0.4, y: 0.6 },
				],
				120,
			),
		).toBeNull();
	});
	it("is taken in where one looks", () => {
		const { eye, line } = newEntry("skyline", "s", 100, 0, 90) as Extract<LandEntry, { kind: "skyline" }>;
		expect(eye).toEqual([60, 2, 0]);
		expect((line[0][0] + line[line.length - 1][0]) / 2).toBe(90);
	});
	it("is told by few points", () => {
		const straight = Array.from({ length: 50 }, (_, i) => ({ x: i / 50, y: 0.3 + i / 500 }));
		expect(fewerPoints(straight)).toHaveLength(2);
		expect(fewerPoints(ridge(3)).length).toBeGreaterThan(12);
	});
});
