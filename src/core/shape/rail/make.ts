import type { Shape } from "../../doc/schema/piece.ts";
import { placesAlong, type Stretch, stretches } from "../../maths/curve.ts";
import { trianglesOf } from "../../maths/polygon.ts";
import { add, cross, dot, length, normalize, scale, sub, type Vec3 } from "../../maths/vec.ts";
import { Builder } from "../builder.ts";
import { boxOf, extentOf, fitted } from "../drawn.ts";
import type { ShapeMaker } from "../geometry.ts";
import { fromMetres } from "../metric.ts";
import { type SectionEdge, sectionOf } from "./section.ts";

type Rail = Extract<Shape, { kind: "rail" }>;

const place = ([right, away, up]: readonly number[]): Vec3 => [right, up, -away];

/** What leads steeper than this cannot tell its own side (sine of the slope). */
const STEEP = 0.9999;
/** At a sharp turn its edge goes so many times as far outwards at most. */
const MOST_MITRE = 4;
/** Convex parts of such a body at most. */
const MOST_PARTS = 40;

interface Node {
	at: Vec3;
	/** The way it goes on from here, and the way it has come; the same where it bends softly. */
	into: Vec3;
	out: Vec3;
	soft: boolean;
	/** Number of the stretch that begins or goes on here. */
	n: number;
}

const stretched = (points: Rail["points"], [bx, by, bz]: Vec3): Rail["points"] =>
	points.map((p) => ({ ...p, at: [p.at[0] * bx, p.at[1] * bz, p.at[2] * by] }));

function nodesOf(line: readonly Stretch[], closed: boolean): Node[] {
	const all = line.flatMap(({ n, spots, ways, begins, ends }, k) =>
		spots.slice(0, -1).map((p, i) => ({ at: place(p), way: place(ways[i]), n, soft: i > 0 || begins, k, ends })),
	);
	const last = line[line.length - 1];
	const tail = place(last.spots[last.spots.length - 1]);
	const places = closed ? all.map((a) => a.at) : [...all.map((a) => a.at), tail];
	const count = places.length;
	const chord = (i: number) => normalize(sub(places[(i + 1) % count], places[i]));
	return places.map((at, i): Node => {
		const node = all[i];
		if (node?.soft) {
			const way = normalize(node.way);
			return { at, into: way, out: way, soft: true, n: node.n };
		}
		const out = closed || i < count - 1 ? chord(i) : chord(i - 1);
		const into = closed || i > 0 ? chord((i + count - 1) % count) : out;
		return { at, into, out, soft: false, n: node?.n ?? last.n };
	});
}

/** How a section lies where it is led along a way: its side is level, and its up is across both. */
interface Frame {
	way: Vec3;
	up: Vec3;
	side: Vec3;
}

/**
 * The frame along a way after another one. The side before it is turned as little as takes the one way to the other
 * (parallel transport): that tells which of the two level sides goes on from it, so that nothing twists where the line leans
 * back over the upright; and it is the side itself where the way is so steep that no side is level.
 */
function frame(way: Vec3, before: Frame | null): Frame {
	const own = Math.abs(way[1]) < STEEP ? normalize(cross(way, [0, 1, 0])) : null;
	const along = before ? 1 + dot(before.way, way) : 0;
	let side = own ?? normalize(sub([1, 0, 0], scale(way, way[0])));
	if (before && along > 1e-6) {
		const turned = sub(before.side, scale(add(before.way, way), dot(before.side, way) / along));
		side = own ? (dot(own, turned) < 0 ? scale(own, -1) : own) : normalize(turned);
	}
	return { way, side, up: cross(side, way) };
}

/** Rings of the section along the line, one at each place, laid into the plane that halves the turn there. */
function ringsOf(nodes: readonly Node[], corners: readonly (readonly number[])[]): { ring: Vec3[]; frames: Frame[] }[] {
	// What begins upright has the side of what it leads into.
	const level = nodes.find((n) => Math.abs(n.out[1]) < STEEP);
	let before = level ? frame(level.out, null) : null;
	return nodes.map(({ at, into, out }) => {
		const coming = frame(into, before);
		const going = frame(out, coming);
		before = going;
		const half = normalize(add(into, out));
		const lean = Math.max(1 / MOST_MITRE, dot(into, half));
		const ring = corners.map(([across, up]) => {
			const o = add(scale(coming.side, across), scale(coming.up, up));
			return add(at, add(o, scale(into, -dot(o, half) / lean)));
		});
		return { ring, frames: [coming, going] };
	});
}

const cornersOf = (shape: Rail) => sectionOf(shape).flatMap((e: SectionEdge) => e.spots.slice(0, -1));

function fitOf(shape: Rail, size: Vec3) {
	const { points, closed } = shape;
	const corners = cornersOf(shape);
	const extent = extentOf(placesAlong(points, closed).map(place));
	return fitted(
		extent,
		(by) => boxOf(ringsOf(nodesOf(stretches(stretched(points, by), closed), closed), corners).flatMap((r) => r.ring)),
		size,
	);
}

function build(shape: Rail, by: Vec3, foot: Vec3) {
	const { closed } = shape;
	const edges = sectionOf(shape);
	const corners = cornersOf(shape);
	const nodes = nodesOf(stretches(stretched(shape.points, by), closed), closed);
	const rings = ringsOf(nodes, corners).map((r) => ({ ...r, ring: r.ring.map((p) => sub(p, foot)) }));
	const b = new Builder();
	const count = nodes.length;
	const spans = Array.from({ length: closed ? count : count - 1 }, (_, i) => [i, (i + 1) % count] as const);
	/** A way in the section, as it lies in space. */
	const laid = ([x, y]: readonly number[], { side, up }: Frame) => add(scale(side, x), scale(up, y));
	const starts = edges.map((_, e) => edges.slice(0, e).reduce((s, edge) => s + edge.spots.length - 1, 0));
	for (const n of [...new Set(nodes.map((node) => node.n))])
		for (const [e, { name, normals, spots }] of edges.entries()) {
			for (const [i, j] of spans) {
				if (nodes[i].n !== n) continue;
				for (let k = 0; k + 1 < spots.length; k++) {
					const [c0, c1] = [starts[e] + k, (starts[e] + k + 1) % corners.length];
					// Where it bends, each side has the frame of its own side of the bend.
					const [fi, fj] = [rings[i].frames[1], rings[j].frames[0]];
					const [a, c, d, f] = [
						b.vertex(rings[i].ring[c0], laid(normals[k], fi)),
						b.vertex(rings[j].ring[c0], laid(normals[k], fj)),
						b.vertex(rings[j].ring[c1], laid(normals[k + 1], fj)),
						b.vertex(rings[i].ring[c1], laid(normals[k + 1], fi)),
					];
					// By the shorter of its two diagonals: both sides of a thin blade that twists are then cut alike.
					const [p, q, r, s] = [rings[i].ring[c0], rings[j].ring[c0], rings[j].ring[c1], rings[i].ring[c1]];
					if (length(sub(r, p)) <= length(sub(s, q))) {
						b.triangle(a, d, f);
						b.triangle(a, c, d);
					} else {
						b.triangle(a, c, f);
						b.triangle(c, d, f);
					}
				}
			}
			b.face(`${name} ${n}`);
		}
	if (!closed)
		for (const [face, at, way] of [
			["beginning", 0, scale(nodes[0].out, -1)],
			["end", count - 1, nodes[count - 1].into],
		] as const) {
			const vertices = rings[at].ring.map((p) => b.vertex(p, way));
			for (const [p, q, r] of trianglesOf(corners))
				b.triangle(vertices[p], at ? vertices[r] : vertices[q], at ? vertices[q] : vertices[r]);
			b.face(face);
		}
	const each = Math.max(1, Math.ceil(spans.length / MOST_PARTS));
	const hulls = Array.from({ length: Math.ceil(spans.length / each) }, (_, k) =>
		spans.slice(k * each, (k + 1) * each).flatMap(([i, j]) => [...rings[i].ring, ...rings[j].ring]),
	);
	return { b, hulls };
}

export const rail: ShapeMaker<Rail> = {
	usual: { tall: 0.5 },
	drawn: {
		closed: (shape) => shape.closed,
		least: 2,
		inSpace: true,
		place,
		at: ([x, y, z]) => [x, -z, y],
		fit: fitOf,
		own: (shape) => {
			const rings = ringsOf(nodesOf(stretches(shape.points, shape.closed), shape.closed), cornersOf(shape));
			const { low, high } = boxOf(rings.flatMap((r) => r.ring));
			return [high[0] - low[0], high[1] - low[1], high[2] - low[2]];
		},
	},
	sized: () => true,
	evaluate: (shape, size) => {
		const { by, low, high } = fitOf(shape, size);
		const foot: Vec3 = [(low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2];
		const { b, hulls } = build(shape, by, foot);
		return fromMetres(b, [high[0] - low[0], high[1] - low[1], high[2] - low[2]], { hulls });
	},
};
