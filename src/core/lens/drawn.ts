/**
 * What a person draws over a reference, and how far each of it is from what a camera would see. All residuals are of the
 * size of a pixel of the drawing: the drawn things are taken to be off by equal normal errors, so the sum of squares is
 * that of the likeliest camera.
 *
 * A line: what remains when the best line through the meeting (vanishing) point of its direction is laid through its two
 * ends (compare Liebowitz 2001; Caprile and Torre 1990 for the geometry). Meeting points are homogeneous, so edges that are
 * parallel in the picture are regular.
 * An ellipse: the circular points of its plane must lie on it (Hartley and Zisserman, Multiple View Geometry, 2004, 2.7
 * and 8.8), two equations, each divided by its spread under errors of the five numbers of the ellipse (Sampson 1982).
 * A height or a length: the logarithm of what is measured against what is known, divided by its spread in the same way.
 */

import { cameraAxes } from "../maths/axes.ts";
import { cos, exp, log, sin } from "../maths/functions.ts";

export type Axis = "x" | "y" | "z";
export type Segment = readonly [number, number, number, number];
export type Pixel = readonly [number, number];
export type CirclePlane = "ground" | "x" | "z";

/** Lengths in pixels relative to the picture's centre, y up; `axes` are half axes, the angle counts from x towards y. */
export interface Drawn {
	lines: { axis: Axis; ends: Segment }[];
	ellipses: { centre: Pixel; axes: Pixel; angleRad: number; plane: CirclePlane }[];
	/** Height of the horizon at the picture's left and right edge. */
	horizon: { left: number; right: number; halfWidth: number } | null;
	heights: { base: Pixel; top: Pixel; metres: number }[];
	lengths: { from: Pixel; to: Pixel; metres: number }[];
}

/** Places of the unknowns in their vector. The focal length and the eye height count by their logarithms. */
export const LOG_F = 0;
export const PITCH = 1;
export const ROLL = 2;
export const HEADING = 3;
export const CENTRE_X = 4;
export const CENTRE_Y = 5;
export const LOG_EYE = 6;
export const STEPS = [1e-5, 1e-4, 1e-4, 1e-4, 1e-3, 1e-3, 1e-5];

export const countOf = (d: Drawn): number =>
	d.lines.length + 2 * d.ellipses.length + (d.horizon ? 2 : 0) + d.heights.length + d.lengths.length;

export interface Eye {
	f: number;
	cx: number;
	cy: number;
	axes: ReturnType<typeof cameraAxes>;
}

export const eyeOf = (u: Float64Array): Eye => ({
	f: exp(u[LOG_F]),
	cx: u[CENTRE_X],
	cy: u[CENTRE_Y],
	axes: cameraAxes(u[HEADING], u[PITCH], u[ROLL]),
});

/** Homogeneous meeting point (x, y, w) of an axis, relative to where the lens's axis meets the picture. */
export function meetingPoint(axis: Axis, eye: Eye): [number, number, number] {
	const c = axis === "x" ? 0 : axis === "y" ? 1 : 2;
	return [eye.axes.right[c] * eye.f, eye.axes.up[c] * eye.f, eye.axes.forward[c]];
}

/** √2 times the RMS distance of the two ends, given relative to the lens's axis, from the best line through the point. */
export function lineResidual(x1: number, y1: number, x2: number, y2: number, X: number, Y: number, W: number): number {
	const ux = W * x1 - X;
	const uy = W * y1 - Y;
	const vx = W * x2 - X;
	const vy = W * y2 - Y;
	const t = ux * ux + uy * uy + vx * vx + vy * vy;
	const cross = ux * vy - uy * vx;
	const flat = W * (x1 * y2 - y1 * x2) - ((x1 - x2) * Y - (y1 - y2) * X);
	return flat * Math.sqrt(2 / (t + Math.sqrt(Math.max(0, t * t - 4 * cross * cross)) + 1e-300));
}

/** Height of the horizon at x, relative to the picture's centre, y up. */
export const horizonAt = (eye: Eye, x: number): number =>
	eye.cy - (eye.axes.right[1] * (x - eye.cx) + eye.axes.forward[1] * eye.f) / eye.axes.up[1];

const PLANE: Record<CirclePlane, [number, number]> = { ground: [0, 2], x: [1, 2], z: [0, 1] };

/** The two equations of an ellipse (ex, ey, a, b, angle), unscaled. */
function circular(e: readonly number[], eye: Eye, plane: CirclePlane): [number, number] {
	const [k, m] = PLANE[plane];
	const c = cos(e[4]);
	const s = sin(e[4]);
	const onto = (d: number): [number, number, number] => {
		const W = eye.axes.forward[d];
		const u = eye.axes.right[d] * eye.f + (eye.cx - e[0]) * W;
		const v = eye.axes.up[d] * eye.f + (eye.cy - e[1]) * W;
		return [(c * u + s * v) / e[2], (c * v - s * u) / e[3], W];
	};
	const p = onto(k);
	const q = onto(m);
	const size = 1 / (p[0] * p[0] + p[1] * p[1] + p[2] * p[2] + q[0] * q[0] + q[1] * q[1] + q[2] * q[2]);
	return [
		(p[0] * p[0] + p[1] * p[1] - p[2] * p[2] - (q[0] * q[0] + q[1] * q[1] - q[2] * q[2])) * size,
		2 * (p[0] * q[0] + p[1] * q[1] - p[2] * q[2]) * size,
	];
}

function ellipseResidual(e: Drawn["ellipses"][number], eye: Eye, out: Float64Array, at: number): void {
	const given = [e.centre[0], e.centre[1], e.axes[0], e.axes[1], e.angleRad];
	const [r1, r2] = circular(given, eye, e.plane);
	let s11 = 1e-300;
	let s12 = 0;
	let s22 = 1e-300;
	const size = Math.max(e.axes[0], e.axes[1]);
	for (let k = 0; k < 5; k++) {
		// An end of the longer axis that is off by a pixel turns the ellipse by 1/size.
		const spread = k === 4 ? 1 / size : 1;
		const h = 1e-3 * spread;
		const there = given.slice();
		there[k] += h;
		const [a1, a2] = circular(there, eye, e.plane);
		const d1 = ((a1 - r1) / h) * spread;
		const d2 = ((a2 - r2) / h) * spread;
		s11 += d1 * d1;
		s12 += d1 * d2;
		s22 += d2 * d2;
	}
	out[at] = r1 / Math.sqrt(s11);
	out[at + 1] = (r2 - (s12 / s11) * r1) / Math.sqrt(Math.max(1e-300, s22 - (s12 * s12) / s11));
}

/** Direction through a pixel, of depth 1. */
function through(eye: Eye, x: number, y: number): [number, number, number] {
	const a = (x - eye.cx) / eye.f;
	const b = (y - eye.cy) / eye.f;
	const { right, up, forward } = eye.axes;
	return [
		forward[0] + a * right[0] + b * up[0],
		forward[1] + a * right[1] + b * up[1],
		forward[2] + a * right[2] + b * up[2],
	];
}

/** Height of what stands from base to top on level ground, in eye heights; NaN when its foot is not on the ground. */
export function heightInEyes(eye: Eye, [bx, by]: Pixel, [tx, ty]: Pixel): number {
	const d = through(eye, bx, by);
	if (d[1] >= -1e-9) return Number.NaN;
	const depth = -1 / d[1];
	const w = eye.axes.forward[1];
	const gx = eye.axes.right[1] * eye.f - (bx - eye.cx) * w;
	const gy = eye.axes.up[1] * eye.f - (by - eye.cy) * w;
	const L = Math.sqrt(gx * gx + gy * gy);
	const along = ((tx - bx) * gx + (ty - by) * gy) / L;
	const s = (along * depth) / (L - along * w);
	return s > 0 ? s : Number.NaN;
}

/** Distance between two places of level ground, in eye heights; NaN when one is not on the ground. */
export function lengthInEyes(eye: Eye, [ax, ay]: Pixel, [bx, by]: Pixel): number {
	const a = through(eye, ax, ay);
	const b = through(eye, bx, by);
	if (a[1] >= -1e-9 || b[1] >= -1e-9) return Number.NaN;
	return Math.sqrt((a[0] / a[1] - b[0] / b[1]) ** 2 + (a[2] / a[1] - b[2] / b[1]) ** 2);
}

/** Logarithm of a measure and its spread when each of its ends is off by a pixel. */
export function logMeasure(
	measure: (eye: Eye, a: Pixel, b: Pixel) => number,
	eye: Eye,
	a: Pixel,
	b: Pixel,
): { log: number; spread: number } {
	const here = measure(eye, a, b);
	if (!(here > 0)) return { log: Number.NaN, spread: Number.NaN };
	const h = 1e-3;
	let sum = 0;
	for (let k = 0; k < 4; k++) {
		const p: [number, number] = [a[0] + (k === 0 ? h : 0), a[1] + (k === 1 ? h : 0)];
		const q: [number, number] = [b[0] + (k === 2 ? h : 0), b[1] + (k === 3 ? h : 0)];
		const d = (measure(eye, p, q) - here) / h / here;
		sum += d * d;
	}
	return { log: log(here), spread: Math.sqrt(sum) };
}

/** A measure that the camera cannot see costs this much: more than any that it can. */
const UNSEEN = 1e5;

/** Fills `out` with every residual of the unknowns, in the order of {@link countOf}, and returns the sum of squares. */
export function drawnResiduals(d: Drawn, u: Float64Array, out: Float64Array): number {
	const eye = eyeOf(u);
	const { f, cx, cy, axes } = eye;
	let n = 0;
	for (let i = 0; i < d.lines.length; i++) {
		const { axis, ends } = d.lines[i];
		const c = axis === "x" ? 0 : axis === "y" ? 1 : 2;
		out[n++] = lineResidual(
			ends[0] - cx,
			ends[1] - cy,
			ends[2] - cx,
			ends[3] - cy,
			axes.right[c] * f,
			axes.up[c] * f,
			axes.forward[c],
		);
	}
	for (const e of d.ellipses) {
		ellipseResidual(e, eye, out, n);
		n += 2;
	}
	if (d.horizon) {
		out[n++] = horizonAt(eye, -d.horizon.halfWidth) - d.horizon.left;
		out[n++] = horizonAt(eye, d.horizon.halfWidth) - d.horizon.right;
	}
	for (const h of d.heights)
		out[n++] = measureResidual(logMeasure(heightInEyes, eye, h.base, h.top), h.metres, u[LOG_EYE]);
	for (const l of d.lengths)
		out[n++] = measureResidual(logMeasure(lengthInEyes, eye, l.from, l.to), l.metres, u[LOG_EYE]);
	let sum = 0;
	for (let i = 0; i < n; i++) sum += out[i] * out[i];
	return sum;
}

function measureResidual(
	{ log: measured, spread }: { log: number; spread: number },
	metres: number,
	logEye: number,
): number {
	return Number.isNaN(measured) ? UNSEEN : (log(metres) - logEye - measured) / spread;
}
