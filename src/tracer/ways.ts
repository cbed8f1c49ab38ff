/** What goes while the shutter is open, as the tracer has it: turns as quaternions, so that they go along the shorter arc. */
import { acos } from "../core/maths/functions.ts";
import { boundsOf, cross, dot, length, type Mat34, scale, type Vec3 } from "../core/maths/vec.ts";

type Quaternion = [number, number, number, number];

/** Axes that a turn leads the world's own to. */
type Axes = readonly [Vec3, Vec3, Vec3];

/** The quaternion (x, y, z, w) of a turn (Shepperd 1978). */
export function quaternionOf([x, y, z]: Axes): Quaternion {
	const [a, b, c] = [x[0], y[1], z[2]];
	const trace = a + b + c;
	if (trace > 0) {
		const s = 2 * Math.sqrt(1 + trace);
		return [(y[2] - z[1]) / s, (z[0] - x[2]) / s, (x[1] - y[0]) / s, s / 4];
	}
	if (a >= b && a >= c) {
		const s = 2 * Math.sqrt(1 + a - b - c);
		return [s / 4, (y[0] + x[1]) / s, (z[0] + x[2]) / s, (y[2] - z[1]) / s];
	}
	if (b >= c) {
		const s = 2 * Math.sqrt(1 - a + b - c);
		return [(y[0] + x[1]) / s, s / 4, (z[1] + y[2]) / s, (z[0] - x[2]) / s];
	}
	const s = 2 * Math.sqrt(1 - a - b + c);
	return [(z[0] + x[2]) / s, (z[1] + y[2]) / s, s / 4, (x[1] - y[0]) / s];
}

/** Half of the turn between two, radians; the second comes back by the shorter way. */
function halfTurn(a: Quaternion, b: Quaternion): { half: number; b: Quaternion } {
	const d = a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3];
	const near = d < 0 ? (b.map((v) => -v) as Quaternion) : b;
	// Of small turns the cosine says little: then by the chord.
	const chord = Math.hypot(...a.map((v, i) => v - near[i]));
	return { half: chord < 0.1 ? chord * (1 + (chord * chord) / 24) : acos(Math.min(1, Math.abs(d))), b: near };
}

interface Pose {
	turn: Quaternion;
	size: Vec3;
	place: Vec3;
}

/** Size, turn and place of what is placed without shear. A mirrored body has its first size below 0. */
function poseOf(m: Mat34): Pose {
	const columns = [0, 1, 2].map((c): Vec3 => [m[c], m[4 + c], m[8 + c]]);
	const size = columns.map(length);
	const axes = columns.map((v, i) => scale(v, 1 / (size[i] || 1))) as unknown as [Vec3, Vec3, Vec3];
	if (dot(cross(axes[0], axes[1]), axes[2]) < 0) {
		size[0] = -size[0];
		axes[0] = scale(axes[0], -1);
	}
	return { turn: quaternionOf(axes), size: size as unknown as Vec3, place: [m[3], m[7], m[11]] };
}

/** Numbers of a way as `WAY_TURNS` and what follows it have them. */
export function wayNumbers(opening: Mat34, closing: Mat34): { numbers: number[]; half: number } {
	const [a, b] = [poseOf(opening), poseOf(closing)];
	const { half, b: turn } = halfTurn(a.turn, b.turn);
	return { numbers: [...a.turn, ...turn, ...a.size, ...b.size, ...a.place, ...b.place, half], half };
}

/**
 * A box that holds a box on its way from one placement to another. Its corners go along arcs beside the chords that the
 * boxes at both ends hold: no farther than the arc's height.
 */
export function boundsOfWay(opening: Mat34, closing: Mat34, half: number, bounds: readonly number[]): number[] {
	const [a, b] = [boundsOf(opening, bounds), boundsOf(closing, bounds)];
	let far = 0;
	for (const m of [opening, closing])
		for (let k = 0; k < 8; k++) {
			const p = [0, 1, 2].map((c) => bounds[c + (k & (1 << c) ? 3 : 0)]);
			far = Math.max(far, Math.hypot(...[0, 4, 8].map((r) => m[r] * p[0] + m[r + 1] * p[1] + m[r + 2] * p[2])));
		}
	const height = far * (1 - Math.cos(half)) * 1.01;
	return [0, 1, 2, 3, 4, 5].map((c) => (c < 3 ? Math.min(a[c], b[c]) - height : Math.max(a[c], b[c]) + height));
}

/** Axis and angle (radians) of the turn that leads one frame of axes to another. */
export function turnBetween(from: Axes, to: Axes): { axis: Vec3; angle: number } {
	const [q, r] = [quaternionOf(from), quaternionOf(to)];
	// to · from⁻¹
	const [ax, ay, az, aw] = r;
	const [bx, by, bz, bw] = [-q[0], -q[1], -q[2], q[3]];
	let v: Vec3 = [
		aw * bx + ax * bw + ay * bz - az * by,
		aw * by - ax * bz + ay * bw + az * bx,
		aw * bz + ax * by - ay * bx + az * bw,
	];
	const w = aw * bw - ax * bx - ay * by - az * bz;
	if (w < 0) v = scale(v, -1);
	const sine = length(v);
	if (sine < 1e-12) return { axis: [0, 1, 0], angle: 0 };
	// Of small turns the sine is exact where the cosine is not.
	const half = sine < 0.1 ? sine * (1 + (sine * sine) / 6 + (3 * sine ** 4) / 40) : acos(Math.min(1, Math.abs(w)));
	return { axis: scale(v, 1 / sine), angle: 2 * half };
}
