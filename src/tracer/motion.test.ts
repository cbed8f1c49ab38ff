import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { blankShot, newPiece } from "../core/doc/defaults.ts";
import { usualMove } from "../core/doc/edits/move.ts";
import type { Camera, Move, ShotDocument } from "../core/doc/schema.ts";
import { newCover } from "../core/dress/plant.ts";
import { cameraAxes } from "../core/maths/axes.ts";
import { type Mat34, placement, transformPoint, type Vec3 } from "../core/maths/vec.ts";
import { compile } from "../core/scene/compile.ts";
import { NO_BLOBS, NO_MAKERS } from "../core/scene/inputs.ts";
import { PartCache } from "../core/scene/partCache.ts";
import { emptyPicture, placeTile, type TileSums } from "../core/scene/picture.ts";
import type { Draw, Scene } from "../core/scene/scene.ts";
import { type Moment, STILL } from "../core/time/frames.ts";
import { renderTile } from "./renderTile.ts";
import { traceAtOnce, tracerForTest } from "./testing.ts";
import { testScene } from "./testScene.ts";
import { boundsOfWay, quaternionOf, turnBetween, wayNumbers } from "./ways.ts";

const SIZE = 96;

/** A row of a picture. */
const row = (plane: Float32Array, y: number, width = SIZE): number[] => [...plane.subarray(y * width, (y + 1) * width)];

/** Distance between the two places where a row rises over half of its level and falls below it, pixels. */
function widthAtHalf(values: readonly number[]): number {
	const lit = values.filter((v) => v > Math.max(...values) / 4).sort((a, b) => a - b);
	const half = lit[Math.floor(lit.length / 2)] / 2;
	const first = values.findIndex((v) => v >= half);
	const last = values.findLastIndex((v) => v >= half);
	const rise = first - (values[first] - half) / (values[first] - (values[first - 1] ?? 0));
	const fall = last + (values[last] - half) / (values[last] - (values[last + 1] ?? 0));
	return fall - rise;
}

/** A placement turned about its own middle height by heading, pitch and roll. */
function turned(position: Vec3, angles: [number, number, number], size: Vec3): Mat34 {
	const { right: r, up: u, forward: f } = cameraAxes(...angles);
	const [w, h, d] = size;
	return [0, 1, 2].flatMap((c) => [r[c] * w, u[c] * h, -f[c] * d, position[c]]);
}

const withWay = (scene: Scene, way: readonly [Mat34, Mat34]): Scene => {
	scene.root.draws[0] = { ...scene.root.draws[0], way } as Draw;
	return scene;
};

describe("a bright disc that crosses the frame", () => {
	it("leaves the profile of its width and its way", () => {
		// A ball of 10 m at 100 m is 9.6 px across; its way of 40 m is 38.4 px.
		const at = (x: number) => placement([x, -5, -100], 0, [10, 10, 10]);
		const scene = testScene([{ kind: "sphere", position: [0, -5, -100], size: [10, 10, 10], glow: [1, 1, 1] }]);
		const p = traceAtOnce(
			withWay(scene, [at(-20), at(20)]),
			{ width: SIZE, height: SIZE, seed: 1, uniformSky: [0, 0, 0] },
			1024,
		);
		const values = row(p.rgb[0], SIZE / 2);
		const scale = SIZE / 100;
		for (let x = 0; x < SIZE; x++) {
			const there = (x + 0.5 - SIZE / 2) / scale;
			// Share of the time in which the ball's middle is within its radius of the place; this row lies half a pixel off its middle.
			const half = Math.sqrt(25 - (0.5 / scale) ** 2);
			const want = Math.max(0, Math.min(20, there + half) - Math.max(-20, there - half)) / 40;
			expect(Math.abs(values[x] - want)).toBeLessThan(0.03);
		}
	});
});

describe("a camera that turns at an even rate", () => {
	it("blurs a far point over rate, shutter and focal length", () => {
		const scene = testScene([{ kind: "sphere", position: [0, -1, -1000], size: [6, 6, 6], glow: [1, 1, 1] }]);
		const { camera } = scene.root;
		const rate = 400;
		const shutterS = 1 / 40;
		const turn = (headingDeg: number): Camera => ({ ...camera, headingDeg });
		scene.root.shutter = { opening: turn((-rate * shutterS) / 2), closing: turn((rate * shutterS) / 2) };
		const width = 200;
		const p = traceAtOnce(scene, { width, height: 12, seed: 2, uniformSky: [0, 0, 0] }, 2048);
		// Film of 24 mm, lens of 24 mm: pixels of 0.12 mm.
		const want = (24 * 2 * Math.tan(((rate * shutterS) / 2) * (Math.PI / 180))) / (24 / width);
		expect(Math.abs(widthAtHalf(row(p.rgb[0], 6, width)) - want)).toBeLessThan(0.5);
	});
});

describe("a body that turns while the shutter is open", () => {
	it("keeps its size on all of its way", () => {
		const long: Vec3 = [0.4, 4, 0.4];
		const at = (roll: number) => turned([0, 0, -20], [0, 0, roll], long);
		const scene = () =>
			testScene([{ kind: "box", position: [0, 0, -20], size: long, material: { colour: [0, 0, 0] } }]);
		const dark = (s: Scene) =>
			traceAtOnce(s, { width: SIZE, height: SIZE, seed: 1, uniformSky: [1, 1, 1] }, 64).rgb[1].reduce(
				(sum, v) => sum + 1 - v,
				0,
			);
		const still = scene();
		still.root.draws[0] = { ...still.root.draws[0], transform: at(0) };
		const moving = withWay(scene(), [at(-80), at(80)]);
		expect(Math.abs(dark(moving) / dark(still) - 1)).toBeLessThan(0.03);
	});
	it("stays in the box about its way, wherever it is", () => {
		const angle = fc.double({ min: -180, max: 180, noNaN: true });
		const size = fc.double({ min: 0.1, max: 9, noNaN: true });
		const pose = fc
			.tuple(angle, angle, angle, size, size, size, angle)
			.map(([h, p, r, w, t, d, x]): Mat34 => turned([x, 3, -x / 2], [h, p / 2.1, r], [w, t, d]));
		fc.assert(
			fc.property(pose, pose, fc.double({ min: 0, max: 1, noNaN: true }), (opening, closing, t) => {
				const { numbers: n, half } = wayNumbers(opening, closing);
				const bounds = [-0.5, 0, -0.5, 0.5, 1, 0.5];
				const box = boundsOfWay(opening, closing, half, bounds);
				// As the kernel places it.
				const [a, b] = half > 1e-3 ? [Math.sin((1 - t) * half), Math.sin(t * half)] : [1 - t, t];
				const q = [0, 1, 2, 3].map((i) => a * n[i] + b * n[4 + i]);
				const k = 1 / Math.hypot(...q);
				const [x, y, z, w] = q.map((v) => v * k);
				const axes = [
					[1 - 2 * (y * y + z * z), 2 * (x * y + w * z), 2 * (x * z - w * y)],
					[2 * (x * y - w * z), 1 - 2 * (x * x + z * z), 2 * (y * z + w * x)],
					[2 * (x * z + w * y), 2 * (y * z - w * x), 1 - 2 * (x * x + y * y)],
				];
				const mix = (i: number) => n[i] * (1 - t) + n[i + 3] * t;
				const m = [0, 1, 2].flatMap((c) => [...axes.map((axis, i) => axis[c] * mix(8 + i)), mix(14 + c)]);
				for (let c = 0; c < 8; c++) {
					const p = transformPoint(m, [0, 1, 2].map((i) => bounds[i + (c & (1 << i) ? 3 : 0)]) as unknown as Vec3);
					if (p.some((v, i) => v < box[i] - 1e-5 || v > box[i + 3] + 1e-5)) return false;
				}
				return true;
			}),
		);
	});
	it("goes from one end to the other", () => {
		const a = turned([1, 2, 3], [10, 20, 30], [1, 2, -3]);
		const { numbers } = wayNumbers(a, a);
		expect(numbers.slice(14, 17)).toEqual([1, 2, 3]);
		expect(
			numbers
				.slice(8, 11)
				.map(Math.abs)
				.map((v) => Math.round(v * 1e9) / 1e9),
		).toEqual([1, 2, 3]);
		expect(numbers[20]).toBe(0);
		const axes = (h: number) => {
			const { right, up, forward: f } = cameraAxes(h, 0, 0);
			return [right, up, [-f[0], -f[1], -f[2]] as Vec3] as const;
		};
		expect(Math.hypot(...quaternionOf(axes(170)))).toBeCloseTo(1, 12);
		expect((turnBetween(axes(10), axes(10.001)).angle * 180) / Math.PI).toBeCloseTo(0.001, 9);
		expect((turnBetween(axes(-170), axes(170)).angle * 180) / Math.PI).toBeCloseTo(20, 9);
	});
});

/** A shot whose camera goes, turns and zooms, and whose box flies and turns. */
function busy(over: Partial<Move> = {}): ShotDocument {
	const two = (a: unknown, b: unknown) => [
		{ timeS: 0, value: a, leave: "even" as const },
		{ timeS: 1, value: b, leave: "even" as const },
	];
	return {
		...blankShot(),
		ground: { ...blankShot().ground, out: true },
		camera: { ...blankShot().camera, fStop: 64, focusM: 10 },
		pieces: [
			newPiece("box", "box", { size: [1.5, 2, 1], surface: { colour: [0.8, 0.3, 0.1], roughness: 0.7, metal: 0 } }),
			newPiece("post", "cylinder", { position: [1.5, 0, -7], size: [0.5, 3, 0.5] }),
		],
		move: {
			...usualMove(),
			...over,
			tracks: [
				{ value: "camera.place", keys: two([0, 1.6, 0], [1, 1.9, -1]) },
				{
					value: "camera.direction",
					keys: two({ headingDeg: 0, pitchDeg: 0, rollDeg: 0 }, { headingDeg: 14, pitchDeg: 3, rollDeg: 12 }),
				},
				{ value: "camera.focal", keys: two(32, 40) },
				{ value: "piece.place", of: "box", keys: two([-2, 0, -8], [0.5, 1, -9]) },
				{
					value: "piece.turn",
					of: "box",
					keys: two({ headingDeg: 0, pitchDeg: 0, rollDeg: 0 }, { headingDeg: 60, pitchDeg: 0, rollDeg: 40 }),
				},
			],
		},
	};
}

describe("a frame with an open shutter", () => {
	it("is the mean of what is seen at all its moments", () => {
		const doc = busy();
		const size = { width: 64, height: 36 };
		const cache = new PartCache();
		const tracer = tracerForTest();
		const traced = (moment: Moment, seed: number, samples: number): Float32Array => {
			const picture = emptyPicture(size.width, size.height);
			tracer.store.load(compile(doc, moment, NO_BLOBS, NO_MAKERS, cache), { ...size, seed });
			const whole = { x: 0, y: 0, ...size };
			const { kernel, memory, store, desk } = tracer;
			const sums = renderTile(kernel, memory.memory.buffer, store.header, desk, whole, 0, samples);
			placeTile(picture, whole, sums as TileSums);
			return picture.rgb[1];
		};
		const blurred = traced({ timeS: 0, shutterS: 1 }, 3, 1024);
		const mean = new Float64Array(64 * 36);
		const steps = 64;
		for (let i = 0; i < steps; i++) {
			traced({ timeS: (i + 0.5) / steps, shutterS: 0 }, 50 + i, 16).forEach((v, k) => {
				mean[k] += v / steps;
			});
		}
		const level = mean.reduce((s, v) => s + v, 0) / mean.length;
		let off = 0;
		blurred.forEach((v, k) => {
			off += Math.abs(v - mean[k]) / level / mean.length;
		});
		expect(off).toBeLessThan(0.02);
	});
	it("shows its middle where nothing is blurred: camera, pieces and ripples", () => {
		const doc = { ...busy(), water: { ...blankShot().water, on: true } };
		const cache = new PartCache();
		const open = compile(doc, { timeS: 0.25, shutterS: 0.5 }, NO_BLOBS, NO_MAKERS, cache);
		const middle = compile(doc, { timeS: 0.5, shutterS: 0 }, NO_BLOBS, NO_MAKERS, cache);
		expect(open.root.camera).toEqual(middle.root.camera);
		expect(open.root.draws.map((d) => d.transform)).toEqual(middle.root.draws.map((d) => d.transform));
		expect(open.root.water).toEqual(middle.root.water);
		expect(open.root.draws.filter((d) => d.way)).toHaveLength(1);
		expect(middle.root.shutter).toBeNull();
	});
});

describe("what is made for a lens that goes", () => {
	it("is made once: all frames have the same ground and the same plants", () => {
		const doc = {
			...busy(),
			ground: blankShot().ground,
			covers: [newCover("grass", "tussock", { densityPerM2: 0.2 })],
		};
		const cache = new PartCache();
		const keys = (t: number) =>
			[...compile(doc, { timeS: t, shutterS: 1 / 48 }, NO_BLOBS, NO_MAKERS, cache).parts.keys()]
				.filter((k) => /^(ground|plants)/.test(k))
				.sort();
		expect(keys(0)).toEqual(keys(0.9));
		expect(keys(0).length).toBeGreaterThan(0);
	});
	it("counts from a place that stays while the lens goes on", () => {
		const doc = busy();
		const cache = new PartCache();
		const compiled = (moment: Moment) => compile(doc, moment, NO_BLOBS, NO_MAKERS, cache);
		const origins = [0, 0.4, 0.9].map((timeS) => compiled({ timeS, shutterS: 0 }).root.origin);
		expect(new Set(origins.map(String)).size).toBe(1);
		expect(compiled(STILL).root.origin).toEqual(doc.camera.position);
	});
});
