import { describe, expect, it } from "vitest";
import { blankShot } from "../doc/defaults.ts";
import { type FrameOfView, frameOfView, project, rayThrough } from "../lens/camera.ts";
import { hash32 } from "../maths/hash.ts";
import type { Vec3 } from "../maths/vec.ts";
import { type Beside, type FrameToSteady, meanLight, nearestDepth, steadyRows } from "./steady.ts";

const [WIDTH, HEIGHT] = [96, 60];
const planes = { x: 0, y: 0, width: WIDTH, height: HEIGHT, frame: { width: WIDTH, height: HEIGHT } };
type Rgb = [Float32Array, Float32Array, Float32Array];

const viewFrom = (x: number, headingDeg = 0): FrameOfView =>
	frameOfView({ ...blankShot().camera, ratio: WIDTH / HEIGHT, position: [x, 1.6, 0], headingDeg, pitchDeg: 0 });

/** Chance that is the same each time, from -1 to 1. */
const chance = (i: number, seed: number): number => hash32(i * 977 + seed * 131_071) / 2 ** 31 - 1;

/** A wall 10 m away with a board 5 m away before its middle, both with a pattern; `off` moves the board. */
function world(view: FrameOfView, off = 0): { light: Float32Array; depth: Float32Array } {
	const light = new Float32Array(WIDTH * HEIGHT);
	const depth = new Float32Array(WIDTH * HEIGHT);
	const at = (x: number, y: number, z: number): Vec3 => {
		const d = rayThrough(view, (x + 0.5) / WIDTH, (y + 0.5) / HEIGHT);
		const k = (-z - view.position[2]) / d[2];
		return [view.position[0] + k * d[0], view.position[1] + k * d[1], -z];
	};
	for (let y = 0; y < HEIGHT; y++)
		for (let x = 0; x < WIDTH; x++) {
			const i = y * WIDTH + x;
			const board = at(x, y, 5);
			const onBoard = Math.abs(board[0] - off) < 0.5 && board[1] < 2;
			const p = onBoard ? board : at(x, y, 10);
			light[i] = (onBoard ? 8 : 4) + Math.sin(3 * (p[0] - (onBoard ? off : 0))) + Math.sin(2.2 * p[1]);
			depth[i] = project(view, p).depthM;
		}
	return { light, depth };
}

/** A frame with noise of its own: as traced, and as it is once most of that is taken out. */
function frame(view: FrameOfView, seed: number, off = 0) {
	const { light, depth } = world(view, off);
	const noisy = (much: number, s: number): Rgb => {
		const plane = light.map((v, i) => v * (1 + much * chance(i, s)));
		return [plane, plane, plane];
	};
	return {
		view,
		light,
		traced: noisy(0.5, seed),
		clean: noisy(0.08, seed + 50),
		depth: nearestDepth(depth, WIDTH, HEIGHT),
	};
}
type Made = ReturnType<typeof frame>;
const own = (f: Made): FrameToSteady => ({ ...f, light: meanLight(f.clean) });
const beside = (f: Made, away: number): Beside => ({ ...f, away });
/** Root mean square of what light is off, relative, where `counts`. */
function error(
	plane: Float32Array,
	truth: Float32Array,
	counts: (x: number, y: number) => boolean = () => true,
): number {
	let [sum, n] = [0, 0];
	for (let i = 0; i < plane.length; i++) {
		if (!counts(i % WIDTH, Math.floor(i / WIDTH))) continue;
		sum += (plane[i] / truth[i] - 1) ** 2;
		n++;
	}
	return Math.sqrt(sum / n);
}
const whole = (f: Made, others: Beside[]) => steadyRows(own(f), others, planes, 0, HEIGHT);

describe("a frame with its neighbours taken in", () => {
	it("has less than half of the noise when all stands still", () => {
		const view = viewFrom(0);
		const [a, ...others] = [1, 2, 3, 4, 5].map((seed) => frame(view, seed));
		const made = whole(
			a,
			others.map((f, i) => beside(f, i < 2 ? 1 : 2)),
		);
		const inside = (x: number, y: number) => x > 2 && y > 2 && x < WIDTH - 3 && y < HEIGHT - 3;
		expect(error(made[0], a.light, inside)).toBeLessThan(0.55 * error(a.clean[0], a.light, inside));
	});
	it("has it, too, when the lens goes and turns: neighbours are laid over it by depth", () => {
		const at = (k: number) => frame(viewFrom(0.06 * k, 0.4 * k), 10 + k);
		const a = at(0);
		const made = whole(
			a,
			[-2, -1, 1, 2].map((k) => beside(at(k), Math.abs(k))),
		);
		// The outlines of this world are not smooth: they are looked at elsewhere.
		const outline = (x: number, y: number) =>
			[-2, 2].some((k) => Math.abs(a.depth[y * WIDTH + x + k] / a.depth[y * WIDTH + x] - 1) > 0.3) ||
			Math.abs(a.depth[(y - 2) * WIDTH + x] / a.depth[y * WIDTH + x] - 1) > 0.3;
		const inside = (x: number, y: number) => x > 6 && y > 4 && x < WIDTH - 7 && y < HEIGHT - 5 && !outline(x, y);
		expect(error(made[0], a.light, inside)).toBeLessThan(0.8 * error(a.clean[0], a.light, inside));
		expect(made[0].every((v) => v > 0 && Number.isFinite(v))).toBe(true);
	});
	it("stays its own where something has gone by, and where it was hidden", () => {
		const view = viewFrom(0);
		const a = frame(view, 1);
		const made = whole(a, [beside(frame(view, 2, -1.2), 1), beside(frame(view, 3, 1.2), 1)]);
		// What is seen in both places at another depth is not mixed in.
		const board = (x: number, y: number) => Math.abs(x - WIDTH / 2 + 0.5) < 8 && y > HEIGHT / 2;
		for (let i = 0; i < WIDTH * HEIGHT; i++)
			if (board(i % WIDTH, Math.floor(i / WIDTH))) expect(made[0][i]).toBe(a.clean[0][i]);
		expect(error(made[0], a.light)).toBeLessThan(error(a.clean[0], a.light));
	});
	it("does not take in light that its own samples do not bear out, though it lies at the same depth", () => {
		const view = viewFrom(0);
		const a = frame(view, 1);
		const other = frame(view, 2);
		const brighter: Rgb = [0, 1, 2].map((c) => other.clean[c].map((v) => 2 * v)) as Rgb;
		const made = whole(a, [beside({ ...other, clean: brighter }, 1)]);
		const taken = made[0].filter((v, i) => Math.abs(v - a.clean[0][i]) > 1e-6 * v).length;
		expect(taken / made[0].length).toBeLessThan(0.02);
	});
	it("is the same in any rows, and in a part of the frame", () => {
		const at = (k: number) => frame(viewFrom(0.06 * k), 10 + k);
		const [a, others] = [at(0), [-1, 1].map((k) => beside(at(k), 1))];
		const all = whole(a, others);
		const top = steadyRows(own(a), others, planes, 0, 23);
		const low = steadyRows(own(a), others, planes, 23, HEIGHT - 23);
		expect(Float32Array.from([...top[1], ...low[1]])).toEqual(all[1]);
		// The same planes as the lower right part of a frame of twice the size show something else.
		const part = { ...planes, x: WIDTH, y: HEIGHT, frame: { width: 2 * WIDTH, height: 2 * HEIGHT } };
		expect(steadyRows(own(a), others, part, 0, HEIGHT)[1]).not.toEqual(all[1]);
	});
	it("of no neighbour is what it was", () => {
		const a = frame(viewFrom(0), 1);
		expect(whole(a, [])[2]).toEqual(a.clean[2]);
	});
});

describe("the nearest depth", () => {
	it("is that within a pixel, also at the edges", () => {
		const depth = Float32Array.from([9, 9, 9, 9, 9, 9, 9, 9, 2, 9, 9, 9]);
		expect([...nearestDepth(depth, 4, 3)]).toEqual([9, 9, 9, 9, 2, 2, 9, 9, 2, 2, 9, 9]);
	});
});
