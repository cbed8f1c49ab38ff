/** A path as a line over the land: its curve, the heights at which it goes, and how near a place lies to it. */
import { clamp, smoothstep } from "../../../maths/functions.ts";
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

/** What lies beside a path at a place: how far its line is, and how high it goes there. */
export interface Beside {
	farM: number;
	heightM: number;
	/** How far along it the nearest of its line lies. */
	alongM: number;
}

type BesideAt = (x: number, z: number) => Beside | null;

/** Side of the squares by which samples are found, as a share of how far they are looked for, and at least, metres. */
const SQUARE = 0.4;
const LEAST_SQUARE_M = 2;

/** One line's own answer; null beyond `reachM`. */
function besideLine(samples: readonly PathSample[], reachM: number): BesideAt {
	const squares = new Squares(Math.max(LEAST_SQUARE_M, SQUARE * reachM));
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
	return (x, z) => {
		const near = squares.about(x, z);
		if (near.length === 0) return null;
		let [least, sum, weights, alongM] = [Number.POSITIVE_INFINITY, 0, 0, 0];
		for (const n of near) {
			const a = samples[n];
			const b = samples[n + 1];
			const ex = b.x - a.x;
			const ez = b.z - a.z;
			const long = ex * ex + ez * ez;
			const t = long > 0 ? clamp(((x - a.x) * ex + (z - a.z) * ez) / long, 0, 1) : 0;
			const dx = x - a.x - t * ex;
			const dz = z - a.z - t * ez;
			const square = dx * dx + dz * dz;
			const nearness = 1 / (square + 1e-3);
			const w = nearness * nearness * nearness;
			if (square < least) {
				least = square;
				alongM = a.alongM + t * (b.alongM - a.alongM);
			}
			sum += w * (a.heightM + t * (b.heightM - a.heightM));
			weights += w;
		}
		if (least >= reachM * reachM) return null;
		return { farM: Math.sqrt(least), heightM: sum / weights, alongM };
	};
}

/** Every so many samples make the next coarser line; it takes over from one to the other of these, counted in ways between its samples. */
const COARSER = 4;
const FROM_APART = 6;
const TO_APART = 9;

/** Each so many samples, with the first and the last. */
const thinned = (samples: readonly PathSample[]): PathSample[] =>
	samples.filter((_, n) => n % COARSER === 0 || n === samples.length - 1);

/**
 * How far a place lies from a path's line, and how high the path goes beside it; null beyond `reachM`. Heights of all samples about
 * the place are weighed by their nearness, so that nothing tears where two arms are equally near (Shepard 1968). Farther off a line of
 * fewer samples tells the same, and takes over bit by bit: in the banks of a deep cut that is three times as fast.
 */
export function besidePath(samples: readonly PathSample[], reachM: number): BesideAt {
	const apart = samples[samples.length - 1].alongM / Math.max(1, samples.length - 1);
	const [from, to] = [FROM_APART * apart, TO_APART * apart];
	if (to >= reachM || samples.length <= 2 * COARSER) return besideLine(samples, reachM);
	const fine = besideLine(samples, to);
	const coarse = besidePath(thinned(samples), reachM);
	return (x, z) => {
		const own = fine(x, z);
		if (!own) return coarse(x, z);
		if (own.farM <= from) return own;
		const other = coarse(x, z);
		if (!other) return own;
		const share = smoothstep(from, to, own.farM);
		return {
			farM: own.farM + share * (other.farM - own.farM),
			heightM: own.heightM + share * (other.heightM - own.heightM),
			alongM: own.alongM,
		};
	};
}
