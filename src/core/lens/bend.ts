/**
 * Radial bend of a reference, from curves drawn along edges that are straight in the place.
 *
 * By the division model of {@link straightened}. The bend is the one that leaves the curves straightest; each curve counts
 * by the distances of its places from its own best line.
 */
import { straightened } from "../maths/division.ts";
import { inverseOf, jacobian, leastSquares, normalMatrix, type Problem } from "../maths/leastSquares.ts";
import type { Pixel } from "./drawn.ts";

export interface Bend {
	k: number;
	kSd: number;
	/** RMS distance in pixels of each curve from a straight line, once straightened. */
	residualsPx: number[];
}

/** Distances of places from their best line (total least squares), in order. */
function fromBestLine(points: readonly Pixel[]): number[] {
	const n = points.length;
	const mx = points.reduce((s, p) => s + p[0], 0) / n;
	const my = points.reduce((s, p) => s + p[1], 0) / n;
	let xx = 0;
	let xy = 0;
	let yy = 0;
	for (const [x, y] of points) {
		xx += (x - mx) ** 2;
		xy += (x - mx) * (y - my);
		yy += (y - my) ** 2;
	}
	const least = (xx + yy - Math.sqrt((xx - yy) ** 2 + 4 * xy * xy)) / 2;
	const [a, b] = Math.abs(xx - least) > Math.abs(yy - least) ? [xy, least - xx] : [least - yy, xy];
	const l = Math.hypot(a, b) || 1;
	return points.map(([x, y]) => ((x - mx) * a + (y - my) * b) / l);
}

/** The bend that leaves the curves straightest, null when they say nothing of it. Places are relative to the centre. */
export function estimateBend(curves: readonly (readonly Pixel[])[], radius: number): Bend | null {
	const told = curves.filter((c) => c.length >= 3);
	if (told.length === 0) return null;
	const starts = told.map((_, i) => told.slice(0, i).reduce((s, c) => s + c.length, 0));
	const problem: Problem = {
		count: told.reduce((s, c) => s + c.length, 0),
		steps: [1e-5],
		limit: (u) => {
			u[0] = Math.min(0.45, Math.max(-0.8, u[0]));
		},
		residuals: (u, out) => {
			let sum = 0;
			told.forEach((curve, i) => {
				fromBestLine(curve.map((p) => straightened(p, u[0], radius))).forEach((d, j) => {
					out[starts[i] + j] = d;
					sum += d * d;
				});
			});
			return sum;
		},
	};
	const { at, cost } = leastSquares(problem, new Float64Array([0]), [0]);
	const covariance = inverseOf(normalMatrix(jacobian(problem, at, [0])));
	if (!covariance) return null;
	// Each curve has a line of its own, so two of its places say nothing.
	const left = Math.max(1, problem.count - 2 * told.length - 1);
	const noise = (4 * 0.25 + cost) / (4 + left);
	const out = new Float64Array(problem.count);
	problem.residuals(at, out);
	return {
		k: at[0],
		kSd: Math.sqrt(covariance[0][0] * noise),
		residualsPx: told.map((c, i) =>
			Math.sqrt(out.subarray(starts[i], starts[i] + c.length).reduce((s, v) => s + v * v, 0) / c.length),
		),
	};
}
