/**
 * Lines through points, soft or hard: between two of them a cubic in Bézier's form. At a soft point the line runs along
 * from the one before to the one after, its handles a third of each stretch; at a hard one, straight to where the other
 * handle lies. It goes through its points, and stretches with them.
 */
import { clamp } from "./functions.ts";

export interface CurvePoint {
	n: number;
	at: readonly number[];
	soft?: boolean;
}

/** The line from one point to the next. */
export interface Stretch {
	/** Number of the point that it begins at. */
	n: number;
	/** Places from the first to the last; two where it is straight. */
	spots: readonly (readonly number[])[];
	/** The way that it goes at each of them, of no given length. */
	ways: readonly (readonly number[])[];
	/** It goes on smoothly from the one before it, and into the next. */
	begins: boolean;
	ends: boolean;
}

/** Places of a bow between two points. */
const STEPS = 10;

const minus = (a: readonly number[], b: readonly number[]) => a.map((v, c) => v - b[c]);
const along = (a: readonly number[], d: readonly number[], by: number) => a.map((v, c) => v + d[c] * by);
const size = (a: readonly number[]) => Math.sqrt(a.reduce((s, v) => s + v * v, 0));

/** The line through points as stretches from each to the next; closed, from the last to the first as well. */
export function stretches(points: readonly CurvePoint[], closed: boolean): Stretch[] {
	const count = points.length;
	const around = (i: number) => points[(i + count) % count];
	const isSoft = (i: number) => !!around(i).soft && (closed || (i > 0 && i < count - 1));
	const way = (i: number) => {
		const d = minus(around(i + 1).at, around(i - 1).at);
		const l = size(d);
		return l > 0 ? d.map((v) => v / l) : minus(around(i + 1).at, around(i).at);
	};
	return Array.from({ length: closed ? count : count - 1 }, (_, i): Stretch => {
		const [p, q] = [around(i), around(i + 1)];
		const [begins, ends] = [isSoft(i), isSoft(i + 1)];
		const straight = minus(q.at, p.at);
		if (!begins && !ends) return { n: p.n, spots: [p.at, q.at], ways: [straight, straight], begins, ends };
		const third = size(straight) / 3;
		const later = ends ? along(q.at, way(i + 1), -third) : null;
		const sooner = begins ? along(p.at, way(i), third) : null;
		const b = sooner ?? along(p.at, minus(later ?? q.at, p.at), 0.5);
		const c = later ?? along(q.at, minus(sooner ?? p.at, q.at), 0.5);
		const spots: number[][] = [];
		const ways: number[][] = [];
		for (let k = 0; k <= STEPS; k++) {
			const t = k / STEPS;
			const u = 1 - t;
			const mixed = (w: readonly number[]) => p.at.map((v, a) => v * w[0] + b[a] * w[1] + c[a] * w[2] + q.at[a] * w[3]);
			spots.push(
				k === 0 ? [...p.at] : k === STEPS ? [...q.at] : mixed([u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t]),
			);
			ways.push(mixed([-u * u, u * u - 2 * u * t, 2 * u * t - t * t, t * t]));
		}
		return { n: p.n, spots, ways, begins, ends };
	});
}

/** All places of a line, each once; closed, the first is not said again. */
export function placesAlong(points: readonly CurvePoint[], closed: boolean): (readonly number[])[] {
	const all = stretches(points, closed);
	const out = all.flatMap((s, i) => s.spots.slice(i ? 1 : 0));
	return closed ? out.slice(0, -1) : out;
}

type Flat = readonly number[];

const turn = (o: Flat, a: Flat, b: Flat) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);

/** Whether two stretches of a plane have a place in common. */
function meet(a: Flat, b: Flat, c: Flat, d: Flat): boolean {
	const [p, q, r, s] = [turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)];
	if (((p > 0 && q < 0) || (p < 0 && q > 0)) && ((r > 0 && s < 0) || (r < 0 && s > 0))) return true;
	const within = (o: Flat, e: Flat, x: Flat) =>
		Math.min(o[0], e[0]) <= x[0] &&
		x[0] <= Math.max(o[0], e[0]) &&
		Math.min(o[1], e[1]) <= x[1] &&
		x[1] <= Math.max(o[1], e[1]);
	return (
		(p === 0 && within(a, b, c)) ||
		(q === 0 && within(a, b, d)) ||
		(r === 0 && within(c, d, a)) ||
		(s === 0 && within(c, d, b))
	);
}

/** Whether a line of a plane crosses or touches itself. */
export function crossesItself(points: readonly CurvePoint[], closed: boolean): boolean {
	const places = placesAlong(points, closed);
	const count = places.length;
	const edges = closed ? count : count - 1;
	for (let i = 0; i < edges; i++)
		for (let j = i + 1; j < edges; j++) {
			const [a, b, c, d] = [
				places[i],
				places[i + 1 === count ? 0 : i + 1],
				places[j],
				places[j + 1 === count ? 0 : j + 1],
			];
			if (j === i + 1 || (closed && i === 0 && j === edges - 1)) {
				// Neighbours have an end in common; they may not run back over each other.
				const [from, mid, to] = j === i + 1 ? [a, b, d] : [c, a, b];
				if (
					turn(from, mid, to) === 0 &&
					(to[0] - mid[0]) * (mid[0] - from[0]) + (to[1] - mid[1]) * (mid[1] - from[1]) < 0
				)
					return true;
			} else if (meet(a, b, c, d)) return true;
		}
	return false;
}

/** The place of a line of a plane that is nearest to one: how far along in metres, which stretch, how far off. */
export function nearestAlong(
	places: readonly Flat[],
	closed: boolean,
	to: Flat,
): { alongM: number; edge: number; offM: number } {
	let best = { alongM: 0, edge: 0, offM: Number.POSITIVE_INFINITY };
	let gone = 0;
	for (let i = 0; i < (closed ? places.length : places.length - 1); i++) {
		const [a, b] = [places[i], places[(i + 1) % places.length]];
		const d = minus(b, a);
		const l = size(d);
		const t = l > 0 ? clamp(d.reduce((s, v, c) => s + v * (to[c] - a[c]), 0) / (l * l), 0, 1) : 0;
		const offM = size(minus(to, along(a, d, t)));
		if (offM < best.offM) best = { alongM: gone + t * l, edge: i, offM };
		gone += l;
	}
	return best;
}

/** The place so far along an open line, and the way that it goes there; beyond its ends those. */
export function placeAlong(places: readonly Flat[], alongM: number): { at: number[]; way: number[] } {
	let gone = 0;
	for (let i = 0; ; i++) {
		const way = minus(places[i + 1], places[i]);
		const l = size(way);
		if (gone + l >= alongM - 1e-9 || i === places.length - 2)
			return { at: along(places[i], way, l > 0 ? clamp((alongM - gone) / l, 0, 1) : 0), way };
		gone += l;
	}
}

/** Length of a line. */
export const lengthAlong = (places: readonly Flat[], closed: boolean): number =>
	places.reduce((sum, p, i) => {
		const q = places[i + 1] ?? (closed ? places[0] : p);
		return sum + size(minus(q, p));
	}, 0);
