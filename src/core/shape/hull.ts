/** Convex hulls: the outermost places of a body, and outlines in a plane. */
import { cos, sin } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";

/** Bodies of up to so many corners keep all of them. */
const FEW = 200;
const DIRECTIONS = 400;
const GOLDEN_TURN = 2.399963229728653;

/** Distinct places of a list of coordinates. */
function distinct(positions: ArrayLike<number>): Vec3[] {
	const seen = new Set<string>();
	const out: Vec3[] = [];
	for (let i = 0; i < positions.length; i += 3) {
		const p: Vec3 = [positions[i], positions[i + 1], positions[i + 2]];
		const key = p.join();
		if (seen.has(key)) continue;
		seen.add(key);
		out.push(p);
	}
	return out;
}

/**
 * Places whose convex hull holds a body: all distinct ones of few, of many those that lie farthest in each of
 * {@link DIRECTIONS} directions (a Fibonacci spiral over the sphere): of a ball that is 0.8 % of the radius short.
 */
export function farthestPoints(positions: ArrayLike<number>): Vec3[] {
	const points = distinct(positions);
	if (points.length <= FEW) return points;
	const chosen = new Set<Vec3>();
	for (let k = 0; k < DIRECTIONS; k++) {
		const y = 1 - (2 * k + 1) / DIRECTIONS;
		const r = Math.sqrt(1 - y * y);
		const [x, z] = [r * cos(GOLDEN_TURN * k), r * sin(GOLDEN_TURN * k)];
		let best = points[0];
		let far = -Infinity;
		for (const p of points) {
			const d = x * p[0] + y * p[1] + z * p[2];
			if (d > far) [best, far] = [p, d];
		}
		chosen.add(best);
	}
	return [...chosen];
}

/** The convex outline of places in a plane, counter-clockwise in (x, y), without places on its edges (Andrew 1979). */
export function convexOutline(points: readonly (readonly [number, number])[]): [number, number][] {
	const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
	if (sorted.length < 3) return sorted.map(([x, y]) => [x, y]);
	const turn = (o: readonly number[], a: readonly number[], b: readonly number[]) =>
		(a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
	const half = (list: readonly (readonly [number, number])[]) => {
		const out: [number, number][] = [];
		for (const [x, y] of list) {
			while (out.length >= 2 && turn(out[out.length - 2], out[out.length - 1], [x, y]) <= 0) out.pop();
			out.push([x, y]);
		}
		out.pop();
		return out;
	};
	return [...half(sorted), ...half(sorted.reverse())];
}
