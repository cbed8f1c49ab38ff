/** A placing taken apart as other programs hold it: where, how turned, how large. */
import type { Mat34, Vec3 } from "../maths/vec.ts";

export type Quaternion = [number, number, number, number];

export interface Placing {
	translation: [number, number, number];
	rotation: Quaternion;
	scale: [number, number, number];
}

/** The turn of three axes that stand square to each other, as a unit quaternion x, y, z, w (Shepperd 1978). */
export function quaternionOf(x: Vec3, y: Vec3, z: Vec3): Quaternion {
	const trace = x[0] + y[1] + z[2];
	const squares = [x[0], y[1], z[2], trace].map((v, i) => (i < 3 ? 1 + 2 * v - trace : 1 + trace));
	const best = squares.indexOf(Math.max(...squares));
	const s = 2 * Math.sqrt(squares[best]);
	const sums = [y[0] + x[1], z[0] + x[2], z[1] + y[2]];
	const differences = [y[2] - z[1], z[0] - x[2], x[1] - y[0]];
	const parts: Quaternion =
		best === 0
			? [s / 4, sums[0] / s, sums[1] / s, differences[0] / s]
			: best === 1
				? [sums[0] / s, s / 4, sums[2] / s, differences[1] / s]
				: best === 2
					? [sums[1] / s, sums[2] / s, s / 4, differences[2] / s]
					: [differences[0] / s, differences[1] / s, differences[2] / s, s / 4];
	const long = Math.hypot(...parts);
	return parts.map((v) => v / long) as Quaternion;
}

/** A matrix whose axes stand square to each other and are no mirror's, taken apart. */
export function placingOf(m: Mat34): Placing {
	const axis = (c: number): Vec3 => [m[c], m[4 + c], m[8 + c]];
	const axes = [0, 1, 2].map(axis);
	const scale = axes.map((a) => Math.hypot(...a)) as [number, number, number];
	const [x, y, z] = axes.map((a, i): Vec3 => [a[0] / scale[i], a[1] / scale[i], a[2] / scale[i]]);
	return { translation: [m[3], m[7], m[11]], rotation: quaternionOf(x, y, z), scale };
}
