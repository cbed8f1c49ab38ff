/** Three-vectors as plain tuples, and 3×4 row-major affine matrices. For clarity outside hot loops. */
import { cos, DEG, sin } from "./functions.ts";

export type Vec3 = readonly [number, number, number];
/** Rows of a 3×4 affine matrix, twelve numbers: x' = m0 x + m1 y + m2 z + m3, and so on. */
export type Mat34 = readonly number[];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, s: number): Vec3 => [a[0] * s, a[1] * s, a[2] * s];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0],
];
export const length = (a: Vec3): number => Math.sqrt(dot(a, a));
export const normalize = (a: Vec3): Vec3 => scale(a, 1 / (length(a) || 1));

/**
 * Placement of a piece: sizes along its own axes, turned by heading about the vertical (degrees clockwise seen from
 * above), moved to its foot.
 */
export function placement(position: Vec3, headingDeg: number, size: Vec3): Mat34 {
	const c = cos(headingDeg * DEG);
	const s = sin(headingDeg * DEG);
	return [
		c * size[0],
		0,
		-s * size[2],
		position[0],
		0,
		size[1],
		0,
		position[1],
		s * size[0],
		0,
		c * size[2],
		position[2],
	];
}

export function transformPoint(m: Mat34, p: Vec3): Vec3 {
	return [
		m[0] * p[0] + m[1] * p[1] + m[2] * p[2] + m[3],
		m[4] * p[0] + m[5] * p[1] + m[6] * p[2] + m[7],
		m[8] * p[0] + m[9] * p[1] + m[10] * p[2] + m[11],
	];
}

/** What does first `b`, then `a`. */
export const composed = (a: Mat34, b: Mat34): Mat34 =>
	Array.from({ length: 12 }, (_, i) => {
		const [row, c] = [i - (i % 4), i % 4];
		return a[row] * b[c] + a[row + 1] * b[4 + c] + a[row + 2] * b[8 + c] + (c === 3 ? a[row + 3] : 0);
	});

/** Of the linear part: below 0 where it turns right to left. */
export const determinant = (m: Mat34): number =>
	m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) + m[2] * (m[4] * m[9] - m[5] * m[8]);

/** Inverse of an affine matrix; throws when it has no volume. */
export function invert(m: Mat34): Mat34 {
	const a = cross([m[4], m[5], m[6]], [m[8], m[9], m[10]]);
	const det = m[0] * a[0] + m[1] * a[1] + m[2] * a[2];
	if (!(Math.abs(det) > 1e-30)) throw new Error("a transform without volume cannot be inverted");
	const b = cross([m[8], m[9], m[10]], [m[0], m[1], m[2]]);
	const c = cross([m[0], m[1], m[2]], [m[4], m[5], m[6]]);
	const k = 1 / det;
	const r = [a[0] * k, b[0] * k, c[0] * k, a[1] * k, b[1] * k, c[1] * k, a[2] * k, b[2] * k, c[2] * k];
	const t = [m[3], m[7], m[11]];
	return [
		r[0],
		r[1],
		r[2],
		-(r[0] * t[0] + r[1] * t[1] + r[2] * t[2]),
		r[3],
		r[4],
		r[5],
		-(r[3] * t[0] + r[4] * t[1] + r[5] * t[2]),
		r[6],
		r[7],
		r[8],
		-(r[6] * t[0] + r[7] * t[1] + r[8] * t[2]),
	];
}

/** Box (three lows, three highs) of a box under an affine matrix, a little widened against rounding. */
export function boundsOf(m: ArrayLike<number>, b: readonly number[]): number[] {
	const out = [0, 0, 0, 0, 0, 0];
	for (let r = 0; r < 3; r++) {
		let lo = m[r * 4 + 3];
		let hi = lo;
		for (let c = 0; c < 3; c++) {
			const x = m[r * 4 + c] * b[c];
			const y = m[r * 4 + c] * b[c + 3];
			lo += Math.min(x, y);
			hi += Math.max(x, y);
		}
		const pad = 1e-6 * Math.max(Math.abs(lo), Math.abs(hi));
		out[r] = lo - pad;
		out[r + 3] = hi + pad;
	}
	return out;
}
