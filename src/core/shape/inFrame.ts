/**
 * What of a piece lies in the frame: its extents there and how far it is. Bodies that reach out of the frame or behind the
 * lens are cut by its edges first (Sutherland and Hodgman, "Reentrant Polygon Clipping", 1974), so that nothing of what is
 * seen is lost and nothing of what is not is counted. What hides it is not asked here.
 */
import type { Piece } from "../doc/schema.ts";
import { bentPlace, type FrameOfView } from "../lens/camera.ts";
import type { Mesh } from "../maths/mesh.ts";
import { add, dot, type Mat34, scale, sub, transformPoint, type Vec3 } from "../maths/vec.ts";
import { pieceTransforms, placedHulls, type Standing } from "./place.ts";
import { geometryOf } from "./shapes.ts";

export interface InFrame {
	/** Extents in the frame, 0 to 1 from its top-left corner. */
	box: { x0: number; y0: number; x1: number; y1: number };
	/** Metres from the lens to its nearest and to its farthest point in the frame. */
	nearM: number;
	farM: number;
	/** Heights in the frame (0 top, 1 bottom) of its near and of its far half. */
	near: [number, number];
	far: [number, number];
}

/** Depth before which nothing is seen, metres. */
const NEAREST_M = 0.01;

/** A place relative to the lens: right and up in half frames times depth, depth, and in metres. */
interface Seen {
	x: number;
	y: number;
	depth: number;
	metres: Vec3;
}

function seen(view: FrameOfView, p: Vec3): Seen {
	const metres = sub(p, view.position);
	const depth = dot(metres, view.forward);
	return {
		x: (dot(metres, view.right) - view.shiftX * depth) / view.tanX,
		y: (dot(metres, view.up) - view.shiftY * depth) / view.tanY,
		depth,
		metres,
	};
}

/** Above zero inside of each edge of the frame, and before the lens. */
const EDGES: ((s: Seen) => number)[] = [
	(s) => s.depth - NEAREST_M,
	(s) => s.depth - s.x,
	(s) => s.depth + s.x,
	(s) => s.depth - s.y,
	(s) => s.depth + s.y,
];

const between = (a: Seen, b: Seen, t: number): Seen => ({
	x: a.x + (b.x - a.x) * t,
	y: a.y + (b.y - a.y) * t,
	depth: a.depth + (b.depth - a.depth) * t,
	metres: add(a.metres, scale(sub(b.metres, a.metres), t)),
});

/** A polygon cut by the frame's edges. */
function cut(polygon: readonly Seen[]): readonly Seen[] {
	let rest = polygon;
	for (const inside of EDGES) {
		const out: Seen[] = [];
		for (let i = 0; i < rest.length; i++) {
			const [a, b] = [rest[i], rest[(i + 1) % rest.length]];
			const [da, db] = [inside(a), inside(b)];
			if (da >= 0) out.push(a);
			if (da >= 0 !== db >= 0) out.push(between(a, b, da / (da - db)));
		}
		if (out.length === 0) return out;
		rest = out;
	}
	return rest;
}

/** Square of the distance from the lens to a triangle (Ericson, "Real-Time Collision Detection", 2005, 5.1.5). */
function squaredTo(a: Vec3, b: Vec3, c: Vec3): number {
	const [ab, ac] = [sub(b, a), sub(c, a)];
	const [d1, d2] = [-dot(ab, a), -dot(ac, a)];
	const [d3, d4] = [-dot(ab, b), -dot(ac, b)];
	const [d5, d6] = [-dot(ab, c), -dot(ac, c)];
	const square = (p: Vec3) => dot(p, p);
	if (d1 <= 0 && d2 <= 0) return square(a);
	if (d3 >= 0 && d4 <= d3) return square(b);
	if (d6 >= 0 && d5 <= d6) return square(c);
	const vc = d1 * d4 - d3 * d2;
	if (vc <= 0 && d1 >= 0 && d3 <= 0) return square(add(a, scale(ab, d1 / (d1 - d3))));
	const vb = d5 * d2 - d1 * d6;
	if (vb <= 0 && d2 >= 0 && d6 <= 0) return square(add(a, scale(ac, d2 / (d2 - d6))));
	const va = d3 * d6 - d5 * d4;
	if (va <= 0 && d4 >= d3 && d5 >= d6) return square(add(b, scale(sub(c, b), (d4 - d3) / (d4 - d3 + (d5 - d6)))));
	const k = 1 / (va + vb + vc);
	return square(add(a, add(scale(ab, vb * k), scale(ac, vc * k))));
}

/** Gathers what is in the frame. */
class Gathered {
	readonly places: Seen[] = [];
	private nearest = Infinity;

	add(polygon: readonly Seen[]): void {
		for (const s of polygon) this.places.push(s);
	}

	near(polygon: readonly Seen[]): void {
		for (let i = 2; i < polygon.length; i++)
			this.nearest = Math.min(this.nearest, squaredTo(polygon[0].metres, polygon[i - 1].metres, polygon[i].metres));
	}

	result(view: FrameOfView): InFrame | null {
		if (this.places.length === 0) return null;
		let [x0, y0, x1, y1, near, far] = [Infinity, Infinity, -Infinity, -Infinity, this.nearest, 0];
		const all = this.places.map(({ x, y, depth, metres }) => {
			const { x: u, y: v } = bentPlace(view, 0.5 + x / depth / 2, 0.5 - y / depth / 2);
			const d = dot(metres, metres);
			x0 = Math.min(x0, u);
			x1 = Math.max(x1, u);
			y0 = Math.min(y0, v);
			y1 = Math.max(y1, v);
			near = Math.min(near, d);
			far = Math.max(far, d);
			return { v, d };
		});
		const middle = Math.sqrt(near * far);
		const span = (half: typeof all): [number, number] =>
			half.length
				? [half.reduce((m, p) => Math.min(m, p.v), Infinity), half.reduce((m, p) => Math.max(m, p.v), -Infinity)]
				: [y0, y1];
		return {
			box: { x0, y0, x1, y1 },
			nearM: Math.sqrt(near),
			farM: Math.sqrt(far),
			near: span(all.filter((p) => p.d <= middle)),
			far: span(all.filter((p) => p.d > middle)),
		};
	}
}

function* trianglesOf({ positions, indices }: Mesh, m: Mat34, view: FrameOfView): Generator<Seen[]> {
	const corners: Seen[] = [];
	for (let i = 0; i < positions.length; i += 3)
		corners.push(seen(view, transformPoint(m, [positions[i], positions[i + 1], positions[i + 2]])));
	for (let i = 0; i < indices.length; i += 3)
		yield [corners[indices[i]], corners[indices[i + 1]], corners[indices[i + 2]]];
}

/** What of a piece and its repeats is in the frame; null when nothing is. */
export function inFrame(piece: Piece, place: Standing, view: FrameOfView): InFrame | null {
	const geometry = geometryOf(piece);
	const gathered = new Gathered();
	/** The copy that lies wholly in the frame and nearest: its faces tell how near. */
	let whole: { m: Mat34; d: number } | null = null;
	for (const m of pieceTransforms(piece, place)) {
		const places = placedHulls(geometry, m)
			.flat()
			.map((p) => seen(view, p));
		if (EDGES.some((inside) => places.every((s) => inside(s) < 0))) continue;
		if (places.every((s) => EDGES.every((inside) => inside(s) >= 0))) {
			gathered.add(places);
			const d = places.reduce((least, s) => Math.min(least, dot(s.metres, s.metres)), Infinity);
			if (!whole || d < whole.d) whole = { m, d };
		} else
			for (const triangle of trianglesOf(geometry.mesh, m, view)) {
				const rest = cut(triangle);
				gathered.add(rest);
				gathered.near(rest);
			}
	}
	if (whole) for (const triangle of trianglesOf(geometry.mesh, whole.m, view)) gathered.near(triangle);
	return gathered.result(view);
}
