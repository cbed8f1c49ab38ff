/** Strokes over the land: how near a place lies to one, what each tool does there, and which strokes reach a place. */
import type { Stroke, StrokeTool } from "../../../doc/schema.ts";
import { millimetres, smoothstep } from "../../../maths/functions.ts";
import { ridged2 } from "../../../maths/noise.ts";
import { Squares } from "../squares.ts";

/** How far places lie from a stroke's line, metres. */
export function farFromLine({ points }: Pick<Stroke, "points">): (x: number, z: number) => number {
	// Where each stretch begins, its way, and the square of its length: a stroke is asked for millions of places.
	const stretches = new Float64Array(5 * points.length);
	for (const [n, [bx, bz]] of points.entries()) {
		const [ax, az] = points[Math.max(0, n - 1)];
		stretches.set([ax, az, bx - ax, bz - az, (bx - ax) * (bx - ax) + (bz - az) * (bz - az)], 5 * n);
	}
	return (x, z) => {
		let least = Number.POSITIVE_INFINITY;
		// The first is a point: of a line the next one begins there.
		for (let k = points.length > 1 ? 5 : 0; k < stretches.length; k += 5) {
			const fx = x - stretches[k];
			const fz = z - stretches[k + 1];
			const ex = stretches[k + 2];
			const ez = stretches[k + 3];
			const long = stretches[k + 4];
			const t = long > 0 ? Math.max(0, Math.min(1, (fx * ex + fz * ez) / long)) : 0;
			const dx = fx - t * ex;
			const dz = fz - t * ez;
			const far = dx * dx + dz * dz;
			if (far < least) least = far;
		}
		return Math.sqrt(least);
	};
}

interface Tool {
	act: string;
	/** How small what it makes is, as a share of its radius. */
	grain: number;
	/** What its metres are called; nothing where it has none. */
	by?: string;
	/** Height after it, of the height before, of how far a place lies from its middle (0) to its rim (1), and of the land about the place. */
	made: (stroke: Stroke, far: number, before: number, x: number, z: number, about: () => number) => number;
}

/** Round in the middle and at the rim (the biweight of Beaton and Tukey 1974). */
const round = (far: number): number => (1 - far * far) ** 2;
/** Level in the middle. */
const table = (far: number): number => 1 - smoothstep(0.55, 1, far);

/** Grain of a relief, as a share of its radius. */
const GRAIN = 0.8;

export const TOOLS: Record<StrokeTool, Tool> = {
	raise: { act: "Raise", grain: 0.25, by: "Rises by", made: (s, far, before) => before + s.byM * round(far) },
	lower: { act: "Lower", grain: 0.25, by: "Sinks by", made: (s, far, before) => before - s.byM * round(far) },
	pull: {
		act: "Pull up",
		grain: 0.15,
		by: "Pulled up by",
		made: (s, far, before) => before + s.byM * (1 - far) * (1 - far),
	},
	flatten: { act: "Flatten", grain: 0.2, made: (s, far, before) => before + ((s.levelM ?? 0) - before) * table(far) },
	smooth: {
		act: "Smooth",
		grain: 0.25,
		made: (_, far, before, _x, _z, about) => before + (about() - before) * table(far),
	},
	relief: {
		act: "Stamp rock",
		grain: 0.06,
		by: "Stands out by",
		made: (s, far, before, x, z) =>
			before +
			s.byM * round(far) * ridged2(x / (GRAIN * s.radiusM), z / (GRAIN * s.radiusM), (s.seed ?? 1) + 700, 4, 0.42),
	},
};

/** Metres of a side of the squares by which strokes are found, at least; and squares of one stroke at most. */
const SQUARE_M = 16;
const MOST_SQUARES = 4000;

/** Which of many strokes may reach a place, by their numbers in order. */
export function strokesAbout(strokes: readonly Stroke[]): (x: number, z: number) => readonly number[] {
	if (strokes.length < 5) {
		const all = strokes.map((_, i) => i);
		return () => all;
	}
	const wide = strokes.map(({ radiusM }) => radiusM).sort((a, b) => a - b)[strokes.length >> 1];
	let side = Math.max(SQUARE_M, wide);
	const boxes = strokes.map(({ points, radiusM }) => {
		const [xs, zs] = [points.map((p) => p[0]), points.map((p) => p[1])];
		return [Math.min(...xs) - radiusM, Math.min(...zs) - radiusM, Math.max(...xs) + radiusM, Math.max(...zs) + radiusM];
	});
	// A stroke over all of the land is not cut into as many squares as it has metres.
	while (boxes.some(([x0, z0, x1, z1]) => ((x1 - x0) / side + 2) * ((z1 - z0) / side + 2) > MOST_SQUARES)) side *= 2;
	const squares = new Squares(side);
	for (const [n, [x0, z0, x1, z1]] of boxes.entries()) squares.add(n, x0, z0, x1, z1);
	return (x, z) => squares.about(x, z);
}

/** Of a stroke's radius: how far places of it lie apart. */
const APART = 0.25;

/** The places of a stroke with one more; the same list while that is too near the last, or there are too many. */
export function withPoint(
	points: readonly [number, number][],
	[x, z]: readonly [number, number],
	radiusM: number,
	most: number,
): readonly [number, number][] {
	const last = points[points.length - 1];
	if (last && Math.hypot(x - last[0], z - last[1]) < APART * radiusM) return points;
	return points.length < most ? [...points, [millimetres(x), millimetres(z)]] : points;
}
