/** A path as a line over the land: its curve, the heights at which it goes, and how near a place lies to it. */
import { clamp } from "../../../maths/functions.ts";
import type { Land } from "../entry.ts";
import { Squares } from "../squares.ts";

type Spot = readonly [number, number];

/** Square roots are the same bits on every engine, hypotenuses need not be. */
const far = (dx: number, dz: number): number => Math.sqrt(dx * dx + dz * dz);

/** Samples of a path at most, and how far they lie apart at least, metres. */
const MOST_SAMPLES = 1500;
const LEAST_APART_M = 0.4;

/** A point of a path: where, how far along it, and how high it goes there, metres. */
export interface PathSample {
	x: number;
	z: number;
	alongM: number;
	heightM: number;
	/** Of the land before it. */
	landM: number;
}

/** A place between two points of a uniform Catmull-Rom curve (Catmull and Rom 1974); ends are doubled. */
function between(points: readonly Spot[], i: number, t: number): Spot {
	const at = (k: number) => points[clamp(k, 0, points.length - 1)];
	const [a, b, c, d] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
	const along = (k: 0 | 1) =>
		0.5 *
		(2 * b[k] +
			(c[k] - a[k]) * t +
			(2 * a[k] - 5 * b[k] + 4 * c[k] - d[k]) * t * t +
			(3 * b[k] - a[k] - 3 * c[k] + d[k]) * t * t * t);
	return [along(0), along(1)];
}

/** Places along a curve through points, about so far apart, metres. */
export function curveThrough(points: readonly Spot[], apartM: number): Spot[] {
	let chords = 0;
	for (let i = 1; i < points.length; i++)
		chords += far(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]);
	const apart = Math.max(LEAST_APART_M, apartM, chords / MOST_SAMPLES);
	const out: Spot[] = [points[0]];
	for (let i = 0; i + 1 < points.length; i++) {
		const long = far(points[i + 1][0] - points[i][0], points[i + 1][1] - points[i][1]);
		const parts = Math.max(1, Math.ceil(long / apart));
		for (let k = 1; k <= parts; k++) out.push(between(points, i, k / parts));
	}
	return out;
}

/**
 * A path over land that nowhere climbs by more than its grade: midway between the highest line of that grade that touches the land
 * from below and the lowest that touches it from above, so that what it cuts and what it fills are alike.
 */
export function pathOver(points: readonly Spot[], land: Land, { apartM, grade }: { apartM: number; grade: number }) {
	const spots = curveThrough(points, apartM);
	const samples: PathSample[] = spots.map(([x, z]) => ({ x, z, alongM: 0, heightM: 0, landM: land(x, z) }));
	for (let i = 1; i < samples.length; i++)
		samples[i].alongM = samples[i - 1].alongM + far(samples[i].x - samples[i - 1].x, samples[i].z - samples[i - 1].z);
	const low = Float64Array.from(samples, (s) => s.landM);
	const high = low.slice();
	const reach = (i: number, from: number) => {
		const climb = grade * Math.abs(samples[i].alongM - samples[from].alongM);
		low[i] = Math.min(low[i], low[from] + climb);
		high[i] = Math.max(high[i], high[from] - climb);
	};
	for (let i = 1; i < samples.length; i++) reach(i, i - 1);
	for (let i = samples.length - 2; i >= 0; i--) reach(i, i + 1);
	for (const [i, s] of samples.entries()) s.heightM = (low[i] + high[i]) / 2;
	return samples;
}

/** Side of the squares by which samples are found, metres. */
const SQUARE_M = 24;

/**
 * How far a place lies from a path's line, and how high the path goes beside it; null beyond `reachM`. Heights of all samples about
 * the place are weighed by their nearness, so that nothing tears where two arms are equally near (Shepard 1968).
 */
export function besidePath(samples: readonly PathSample[], reachM: number) {
	const squares = new Squares(SQUARE_M);
	for (let n = 0; n + 1 < samples.length; n++) {
		const [a, b] = [samples[n], samples[n + 1]];
		squares.add(
			n,
			Math.min(a.x, b.x) - reachM,
			Math.min(a.z, b.z) - reachM,
			Math.max(a.x, b.x) + reachM,
			Math.max(a.z, b.z) + reachM,
		);
	}
	return (x: number, z: number): { farM: number; heightM: number } | null => {
		const near = squares.about(x, z);
		if (near.length === 0) return null;
		let [least, sum, weights] = [Number.POSITIVE_INFINITY, 0, 0];
		for (const n of near) {
			const [a, b] = [samples[n], samples[n + 1]];
			const [ex, ez] = [b.x - a.x, b.z - a.z];
			const long = ex * ex + ez * ez;
			const t = long > 0 ? clamp(((x - a.x) * ex + (z - a.z) * ez) / long, 0, 1) : 0;
			const [dx, dz] = [x - a.x - t * ex, z - a.z - t * ez];
			const square = dx * dx + dz * dz;
			const w = 1 / (square + 1e-3) ** 3;
			least = Math.min(least, square);
			sum += w * (a.heightM + t * (b.heightM - a.heightM));
			weights += w;
		}
		if (least >= reachM * reachM) return null;
		return { farM: Math.sqrt(least), heightM: sum / weights };
	};
}
