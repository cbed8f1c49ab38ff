/**
 * Families of edges that converge: those that may be parallel in the place.
 *
 * Every pair of long edges proposes a meeting point; the one whose edges add up to most length is taken, laid anew through
 * its edges by least squares, and its edges leave; then the next (sequential consensus after Fischler and Bolles 1981, over
 * all pairs instead of lots, so that the same picture gives the same families).
 */
import { lineResidual } from "../lens/drawn.ts";
import type { EdgeSegment, FoundEdge } from "./edges.ts";

export interface EdgeFamily {
	id: string;
	/** What the family may be, by where it meets. */
	axis: "along" | "across" | "upright";
	/** The edges that tell most of it, in pixels, the longest first. */
	segments: EdgeSegment[];
	/** How many edges it has in all. */
	count: number;
}

/** Pairs are made of so many of the longest edges. */
const LONGEST = 130;
const MOST_FAMILIES = 4;
const LEAST_EDGES = 3;
/** A family with less weight than this share of the first is chance. */
const LEAST_OF_FIRST = 0.12;
/** Edges of a family that are proposed as lines. */
const PROPOSED = 6;

type Meeting = [number, number, number];
const length = ([a, b, c, d]: EdgeSegment): number => Math.hypot(c - a, d - b);

/** Fits within a pixel or a hundredth of its length. */
const belongs = (s: EdgeSegment, [X, Y, W]: Meeting, scale: number): boolean =>
	Math.abs(lineResidual(s[0], s[1], s[2], s[3], X, Y, W)) / Math.SQRT2 < Math.max(0.9 * scale, 0.006 * length(s)) &&
	away(s, [X, Y, W]);

/** The meeting point must lie outside the edge itself. */
function away(s: EdgeSegment, [X, Y, W]: Meeting): boolean {
	const [mx, my] = [(s[0] + s[2]) / 2, (s[1] + s[3]) / 2];
	return Math.hypot(X - W * mx, Y - W * my) > Math.abs(W) * 0.55 * length(s);
}

/** Line through an edge's ends, normalised, so that a point's product with it is its distance. */
function lineOf([x1, y1, x2, y2]: EdgeSegment): Meeting {
	const l = Math.hypot(x2 - x1, y2 - y1) || 1;
	return [(y1 - y2) / l, (x2 - x1) / l, (x1 * y2 - x2 * y1) / l];
}

const cross = (a: Meeting, b: Meeting): Meeting => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0],
];

/** The point nearest to all lines, longer ones counting more: the smallest eigenvector of their moment, by iteration. */
function meetingOf(edges: readonly EdgeSegment[], weight: (e: EdgeSegment) => number): Meeting {
	const M = [0, 0, 0, 0, 0, 0];
	let all = 0;
	for (const e of edges) {
		const [a, b, c] = lineOf(e);
		const w = weight(e) ** 2;
		M[0] += w * a * a;
		M[1] += w * a * b;
		M[2] += w * a * c;
		M[3] += w * b * b;
		M[4] += w * b * c;
		M[5] += w * c * c;
		all += w;
	}
	// Inverse power iteration on the moment, made regular by a small share of its trace.
	const m = M.map((v) => v / all);
	const ridge = 1e-9 * (m[0] + m[3] + m[5]);
	const A = [
		[m[0] + ridge, m[1], m[2]],
		[m[1], m[3] + ridge, m[4]],
		[m[2], m[4], m[5] + ridge],
	];
	let v: Meeting = cross(lineOf(edges[0]), lineOf(edges[1]));
	const det =
		A[0][0] * (A[1][1] * A[2][2] - A[1][2] * A[2][1]) -
		A[0][1] * (A[1][0] * A[2][2] - A[1][2] * A[2][0]) +
		A[0][2] * (A[1][0] * A[2][1] - A[1][1] * A[2][0]);
	if (Math.abs(det) < 1e-300) return v;
	const solve = (b: Meeting): Meeting => {
		const column = (k: number): number => {
			const B = A.map((row, i) => row.map((x, j) => (j === k ? b[i] : x)));
			return (
				B[0][0] * (B[1][1] * B[2][2] - B[1][2] * B[2][1]) -
				B[0][1] * (B[1][0] * B[2][2] - B[1][2] * B[2][0]) +
				B[0][2] * (B[1][0] * B[2][1] - B[1][1] * B[2][0])
			);
		};
		return [column(0) / det, column(1) / det, column(2) / det];
	};
	for (let i = 0; i < 30; i++) {
		const l = Math.hypot(v[0], v[1], v[2]) || 1;
		v = solve([v[0] / l, v[1] / l, v[2] / l]);
	}
	const l = Math.hypot(v[0], v[1], v[2]) || 1;
	return [v[0] / l, v[1] / l, v[2] / l];
}

/** The longest edges that do not lie on top of each other. */
function tellingOf(edges: readonly EdgeSegment[], apart: number, weight: (e: EdgeSegment) => number): EdgeSegment[] {
	const kept: EdgeSegment[] = [];
	for (const e of [...edges].sort((a, b) => weight(b) - weight(a))) {
		const near = kept.some((k) => {
			const [a, b, c] = lineOf(k);
			return Math.abs(a * e[0] + b * e[1] + c) < apart && Math.abs(a * e[2] + b * e[3] + c) < apart;
		});
		if (!near) kept.push(e);
		if (kept.length === PROPOSED) break;
	}
	return kept;
}

/** Up to four families of a picture's edges, the one of most length first. Places are pixels from the top-left corner. */
export function findFamilies(found: readonly FoundEdge[], size: { width: number; height: number }): EdgeFamily[] {
	const diagonal = Math.hypot(size.width, size.height);
	const scale = Math.max(1, diagonal / 1900);
	// About the middle and of the size of one, so that moments are well conditioned.
	const unit = (e: EdgeSegment): EdgeSegment => [
		e[0] - size.width / 2,
		e[1] - size.height / 2,
		e[2] - size.width / 2,
		e[3] - size.height / 2,
	];
	const s = scale / diagonal;
	// Clouds and grain have many weak edges; what is built has strong ones.
	const strengths = found.map((f) => f.strength).sort((a, b) => b - a);
	const strong = strengths[Math.floor(strengths.length / 6)] || 1;
	const weights = new Map<EdgeSegment, number>();
	let left = found.map((f) => {
		const e = unit(f.segment).map((v) => v / diagonal) as unknown as EdgeSegment;
		weights.set(e, length(e) * Math.min(1, f.strength / strong));
		return e;
	});
	const weight = (e: EdgeSegment) => weights.get(e) ?? 0;
	const families: EdgeFamily[] = [];
	let first = 0;
	while (families.length < MOST_FAMILIES && left.length >= LEAST_EDGES) {
		const long = [...left].sort((a, b) => weight(b) - weight(a)).slice(0, LONGEST);
		let best: { sum: number; at: Meeting } | null = null;
		for (let i = 0; i < long.length; i++)
			for (let j = i + 1; j < long.length; j++) {
				const at = cross(lineOf(long[i]), lineOf(long[j]));
				const l = Math.hypot(at[0], at[1], at[2]);
				// Two pieces of one edge propose nothing.
				if (l < 1e-4) continue;
				const m: Meeting = [at[0] / l, at[1] / l, at[2] / l];
				let sum = 0;
				for (const e of long) if (belongs(e, m, s)) sum += weight(e);
				if (!best || sum > best.sum) best = { sum, at: m };
			}
		if (!best) break;
		first ||= best.sum;
		if (best.sum < LEAST_OF_FIRST * first) break;
		let own = left.filter((e) => belongs(e, (best as { at: Meeting }).at, s));
		for (let round = 0; round < 3 && own.length >= 2; round++) {
			const at = meetingOf(own, weight);
			const next = left.filter((e) => belongs(e, at, s));
			if (next.length < own.length) break;
			own = next;
		}
		const members = new Set(own);
		left = left.filter((e) => !members.has(e));
		const telling = tellingOf(own, 4 * s, weight);
		if (telling.length < LEAST_EDGES) {
			if (own.length === 0) break;
			continue;
		}
		const [X, Y, W] = meetingOf(own, weight);
		const steep = Math.abs(Y) > 1.6 * Math.abs(X) && Math.abs(Y) > 0.9 * Math.abs(W);
		families.push({
			id: `family-${families.length + 1}`,
			axis: steep ? "upright" : "along",
			segments: telling.map(
				(e) =>
					[
						e[0] * diagonal + size.width / 2,
						e[1] * diagonal + size.height / 2,
						e[2] * diagonal + size.width / 2,
						e[3] * diagonal + size.height / 2,
					] as const,
			),
			count: own.length,
		});
	}
	const level = families.filter((f) => f.axis !== "upright");
	level.forEach((f, i) => {
		f.axis = i === 0 ? "along" : "across";
	});
	return families;
}
