import type { Shape } from "../../doc/schema/piece.ts";
import { placesAlong, type Stretch, stretches } from "../../maths/curve.ts";
import { trianglesOf } from "../../maths/polygon.ts";
import type { Vec3 } from "../../maths/vec.ts";
import { type Builder, FaceGroups } from "../builder.ts";
import { boxOf, extentOf, fitted, fromPlan, inPlan } from "../drawn.ts";
import type { ShapeMaker } from "../geometry.ts";
import { headAt } from "../heads.ts";
import { fromMetres } from "../metric.ts";

type Wall = Extract<Shape, { kind: "wall" }>;
type Flat = readonly [number, number];

/** At a sharp turn a wall's edge goes so many times its half thickness outwards at most. */
const MOST_MITRE = 4;
/** Columns over one opening, where its head is not straight. */
const HEAD_STEPS = 16;
/** Places along and up that differ by less are one, metres. */
const ONE_M = 1e-6;
/** Part of a wall's height that an opening takes at most, before nothing is left above it. */
const MOST_OPEN = 0.999;

/** A straight piece of the wall's middle line. */
interface Edge {
	n: number;
	from: Flat;
	to: Flat;
	/** Along the wall where it begins and ends, metres. */
	begin: number;
	end: number;
	/** From the middle line to its right edge at both ends, for a half thickness of one. */
	mitres: readonly [Flat, Flat];
	/** Which way its right side looks at both ends. */
	normals: readonly [Flat, Flat];
}

const right = ([dx, dz]: Flat): Flat => {
	const l = Math.hypot(dx, dz);
	return [-dz / l, dx / l];
};

/** The wall's middle line, in metres right and towards, as edges. */
function edgesOf(line: readonly Stretch[], closed: boolean): Edge[] {
	const flat = line.flatMap(({ n, spots, begins, ends }) =>
		spots.slice(1).map((to, i) => ({
			n,
			from: [spots[i][0], -spots[i][1]] as Flat,
			to: [to[0], -to[1]] as Flat,
			soft: [i > 0 || begins, i < spots.length - 2 || ends] as const,
		})),
	);
	const sides = flat.map(({ from, to }) => right([to[0] - from[0], to[1] - from[1]]));
	const count = flat.length;
	const between = (i: number, j: number): Flat => {
		const other = closed ? sides[(j + count) % count] : (sides[j] ?? sides[i]);
		const own = sides[i];
		const together = 1 + own[0] * other[0] + own[1] * other[1];
		const by = Math.min(1 / Math.max(together, 1e-9), (MOST_MITRE * MOST_MITRE) / 2);
		return [(own[0] + other[0]) * by, (own[1] + other[1]) * by];
	};
	let gone = 0;
	return flat.map(({ n, from, to, soft }, i) => {
		const begin = gone;
		gone += Math.hypot(to[0] - from[0], to[1] - from[1]);
		const mitres = [between(i, i - 1), between(i, i + 1)] as const;
		const normals = mitres.map((m, k) => (soft[k] ? m : sides[i])) as unknown as [Flat, Flat];
		return { n, from, to, begin, end: gone, mitres, normals };
	});
}

const stretched = (points: Wall["points"], [bx, , bz]: Vec3): Wall["points"] =>
	points.map((p) => ({ ...p, at: [p.at[0] * bx, p.at[1] * bz] }));

/** Where the right and the left edge of the wall are, on its foot. */
const cornersOf = (edges: readonly Edge[], half: number): Vec3[] =>
	edges.flatMap(({ from, to, mitres: [a, b] }) =>
		[half, -half].flatMap((out): Vec3[] => [
			[from[0] + a[0] * out, 0, from[1] + a[1] * out],
			[to[0] + b[0] * out, 0, to[1] + b[1] * out],
		]),
	);

const fitOf = (shape: Wall, [w, h, d]: Vec3) => {
	const { points, closed, thickM } = shape;
	const extent = extentOf(placesAlong(points, closed).map(inPlan));
	const fit = fitted(
		extent,
		(by) => boxOf(cornersOf(edgesOf(stretches(stretched(points, by), closed), closed), thickM / 2)),
		[w, 0, d],
	);
	return { ...fit, high: [fit.high[0], h, fit.high[2]] as Vec3 };
};

/** A part of the wall between two places along it: solid from a lower line up to an upper one. */
interface Solid {
	low: [number, number];
	high: [number, number];
	/** Faces below and above. */
	under: string;
	over: string;
}

interface Column {
	edge: Edge;
	from: number;
	to: number;
	solids: Solid[];
	/** Number of the opening in it. */
	opening?: number;
}

function columnsOf(edges: readonly Edge[], { openings, closed }: Wall, h: number): Column[] {
	const far = edges[edges.length - 1].end;
	const cuts = [0, far, ...edges.map((e) => e.begin)];
	for (const o of openings) {
		const steps = o.head === "straight" ? 1 : HEAD_STEPS;
		for (let i = 0; i <= steps; i++) cuts.push(o.alongM - o.widthM / 2 + (o.widthM * i) / steps);
	}
	const sorted = cuts
		.filter((s) => s >= 0 && s <= far)
		.sort((a, b) => a - b)
		.filter((s, i, all) => i === 0 || s - all[i - 1] > ONE_M);
	if (closed || far - sorted[sorted.length - 1] <= ONE_M) sorted[sorted.length - 1] = far;
	let at = 0;
	return sorted.slice(1).map((to, i): Column => {
		const from = sorted[i];
		const middle = (from + to) / 2;
		while (at < edges.length - 1 && edges[at].end < middle) at++;
		const opening = openings.find((o) => Math.abs(middle - o.alongM) < o.widthM / 2);
		const whole: Solid = { low: [0, 0], high: [h, h], under: "foot", over: "top" };
		if (!opening) return { edge: edges[at], from, to, solids: [whole] };
		const top = Math.min(opening.sillM + opening.tallM, MOST_OPEN * h);
		const sill = Math.min(opening.sillM, top - ONE_M);
		const heads = [from, to].map((s) => {
			const head = headAt(opening, s - opening.alongM, top - sill) + sill;
			return Math.abs(head - sill) < ONE_M ? sill + ONE_M * 10 : head;
		}) as [number, number];
		return {
			edge: edges[at],
			from,
			to,
			opening: opening.n,
			solids: [
				...(sill > ONE_M
					? [{ low: [0, 0], high: [sill, sill], under: "foot", over: `sill ${opening.n}` } satisfies Solid]
					: []),
				{ low: heads, high: [h, h], under: `head ${opening.n}`, over: "top" },
			],
		};
	});
}

function build(shape: Wall, h: number, edges: readonly Edge[], middle: Flat): Builder {
	const half = shape.thickM / 2;
	const columns = columnsOf(edges, shape, h);
	const faces = new FaceGroups();
	const t = ({ begin, end }: Edge, s: number) => (s - begin) / (end - begin);
	const lay = ({ edge }: Column, s: number, y: number, out: number): Vec3 => {
		const k = t(edge, s);
		const [a, b] = edge.mitres;
		const on = (c: 0 | 1) => (edge.from[c] + a[c] * out) * (1 - k) + (edge.to[c] + b[c] * out) * k - middle[c];
		return [on(0), y, on(1)];
	};
	const normalAt = ({ edge }: Column, s: number, out: number): Vec3 => {
		const k = t(edge, s);
		const [a, b] = edge.normals;
		return [(a[0] * (1 - k) + b[0] * k) * out, 0, (a[1] * (1 - k) + b[1] * k) * out];
	};
	const count = columns.length;
	const beside = (i: number, by: 1 | -1): Column | undefined =>
		shape.closed ? columns[(i + by + count) % count] : columns[i + by];
	/** Heights at one end of a column at which it or its neighbour has a corner: both have one there, so that nothing gapes. */
	const heights = (own: Column, end: 0 | 1, other: Column | undefined) =>
		[
			...own.solids.flatMap((s) => [s.low[end], s.high[end]]),
			...(other?.solids.flatMap((s) => [s.low[1 - end], s.high[1 - end]]) ?? []),
		]
			.sort((a, b) => a - b)
			.filter((y, i, all) => i === 0 || y - all[i - 1] > ONE_M);
	for (const [i, column] of columns.entries()) {
		const { edge, from, to, solids } = column;
		const ends = [heights(column, 0, beside(i, -1)), heights(column, 1, beside(i, 1))] as const;
		for (const { low, high, under, over } of solids) {
			const rise = (end: 0 | 1, s: number) =>
				ends[end].filter((y) => y > low[end] + ONE_M && y < high[end] - ONE_M).map((y): Flat => [s, y]);
			const ring: Flat[] = [
				[from, low[0]],
				[to, low[1]],
				...rise(1, to),
				[to, high[1]],
				[from, high[0]],
				...rise(0, from).reverse(),
			];
			for (const [name, side] of [
				["right", 1],
				["left", -1],
			] as const)
				faces.add(`${name} ${edge.n}`, (b) => {
					const at = ring.map(([s, y]) => b.vertex(lay(column, s, y, side * half), normalAt(column, s, side)));
					for (const [p, q, r] of trianglesOf(ring))
						b.triangle(at[p], side > 0 ? at[q] : at[r], side > 0 ? at[r] : at[q]);
				});
			const across = (s: number, y: number): [Vec3, Vec3] => [lay(column, s, y, half), lay(column, s, y, -half)];
			const level = (face: string, y: readonly [number, number], up: boolean) => {
				const [[a, b], [c, d]] = [across(from, y[0]), across(to, y[1])];
				faces.add(face, (built) => (up ? built.flat(a, c, d, b) : built.flat(b, d, c, a)));
			};
			level(under, low, false);
			level(over, high, true);
		}
		// Upright edges: where it is solid on one side of the end and not on the other.
		for (const end of [0, 1] as const) {
			const other = beside(i, end ? 1 : -1);
			const s = end ? to : from;
			const has = (c: Column | undefined, at: 0 | 1, y: number) =>
				!!c?.solids.some((solid) => y > solid.low[at] && y < solid.high[at]);
			const all = ends[end];
			for (let k = 0; k + 1 < all.length; k++) {
				const y = (all[k] + all[k + 1]) / 2;
				if (!has(column, end, y) || has(other, end ? 0 : 1, y)) continue;
				const [a, b, c, d] = [
					lay(column, s, all[k], half),
					lay(column, s, all[k], -half),
					lay(column, s, all[k + 1], -half),
					lay(column, s, all[k + 1], half),
				];
				const open = other?.opening ?? column.opening;
				const face = other ? `jamb ${end ? "before" : "after"} ${open}` : end ? "end" : "beginning";
				faces.add(face, (built) => (end ? built.flat(a, b, c, d) : built.flat(d, c, b, a)));
			}
		}
	}
	return faces.built();
}

export const wall: ShapeMaker<Wall> = {
	usual: { tall: 0.6 },
	drawn: {
		closed: (shape) => shape.closed,
		least: 2,
		lies: true,
		heightM: 3,
		place: inPlan,
		at: fromPlan,
		fit: fitOf,
		own: ({ points, closed, thickM }, heightM) => {
			const { low, high } = boxOf(cornersOf(edgesOf(stretches(points, closed), closed), thickM / 2));
			return [high[0] - low[0], heightM, high[2] - low[2]];
		},
	},
	sized: () => true,
	scaled: (shape, by) => ({
		openings: shape.openings.map((o) => ({
			...o,
			alongM: o.alongM * by,
			widthM: o.widthM * by,
			sillM: o.sillM * by,
			tallM: o.tallM * by,
		})),
	}),
	evaluate: (shape, size) => {
		const [, h] = size;
		const { by, low, high } = fitOf(shape, size);
		const edges = edgesOf(stretches(stretched(shape.points, by), shape.closed), shape.closed);
		const middle: Flat = [(low[0] + high[0]) / 2, (low[2] + high[2]) / 2];
		const hulls = edges.map((e) =>
			cornersOf([e], shape.thickM / 2).flatMap(([x, , z]): Vec3[] =>
				[0, h].map((y): Vec3 => [x - middle[0], y, z - middle[1]]),
			),
		);
		return fromMetres(build(shape, h, edges, middle), [high[0] - low[0], h, high[2] - low[2]], { hulls });
	},
};
