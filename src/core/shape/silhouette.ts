/**
 * The outline of a body as a lens sees it: the edges between faces that are turned to the lens and faces that are turned
 * away. Pieces are set by their edges over a reference, so it is the shape's own outline and no box about it.
 */
import type { Piece } from "../doc/schema.ts";
import type { FrameOfView } from "../lens/camera.ts";
import { project } from "../lens/camera.ts";
import type { Mesh } from "../maths/mesh.ts";
import { add, cross, dot, invert, type Mat34, scale, sub, transformPoint, type Vec3 } from "../maths/vec.ts";
import { pieceTransforms, type Standing } from "./place.ts";
import { geometryOf } from "./shapes.ts";

/** An edge of a mesh: its two ends, and a corner of each of the triangles beside it in the order that tells their sides. */
interface Edge {
	a: Vec3;
	b: Vec3;
	/** Third corner of the triangle in which it runs from a to b, and of the other one. */
	left: Vec3;
	right: Vec3 | null;
}

const held = new WeakMap<Mesh, Edge[]>();

/** Edges by places, so that faces which do not share corners (for their normals) meet all the same. */
function edgesOf(mesh: Mesh): Edge[] {
	const known = held.get(mesh);
	if (known) return known;
	const { positions, indices } = mesh;
	const place = (i: number): Vec3 => [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]];
	const name = (p: Vec3) => p.map((v) => Math.round(v * 1e6)).join();
	const open = new Map<string, Edge>();
	for (let i = 0; i < indices.length; i += 3) {
		const corners = [place(indices[i]), place(indices[i + 1]), place(indices[i + 2])];
		for (let k = 0; k < 3; k++) {
			const [a, b, c] = [corners[k], corners[(k + 1) % 3], corners[(k + 2) % 3]];
			const other = open.get(`${name(b)} ${name(a)}`);
			if (other) other.right ??= c;
			else open.set(`${name(a)} ${name(b)}`, { a, b, left: c, right: null });
		}
	}
	const edges = [...open.values()];
	held.set(mesh, edges);
	return edges;
}

const NEAREST_M = 0.05;

type Segment = [number, number, number, number];

/**
 * Segments of the outline of a body that is placed by a matrix: x and y of both ends in shares of the frame, beyond 0 to 1
 * outside it. Parts behind the lens are cut off.
 */
export function outlineOf(mesh: Mesh, m: Mat34, view: FrameOfView): Segment[] {
	const out: Segment[] = [];
	const eye = transformPoint(invert(m), view.position);
	/** Whether the eye lies before a triangle. */
	const faces = (a: Vec3, b: Vec3, c: Vec3) => dot(cross(sub(b, a), sub(c, a)), sub(eye, a)) > 0;
	for (const { a, b, left, right } of edgesOf(mesh)) {
		if (right && faces(a, b, left) === faces(b, a, right)) continue;
		const ends = clipped(transformPoint(m, a), transformPoint(m, b), view);
		if (!ends) continue;
		const [p, q] = ends.map((e) => project(view, e));
		out.push([p.x, p.y, q.x, q.y]);
	}
	return out;
}

/** {@link outlineOf} of all copies of a piece. */
export function silhouette(piece: Piece, place: Standing, view: FrameOfView): Segment[] {
	const { mesh } = geometryOf(piece);
	return pieceTransforms(piece, place).flatMap((m) => outlineOf(mesh, m, view));
}

/** The part of a segment that lies before the lens. */
function clipped(a: Vec3, b: Vec3, view: FrameOfView): [Vec3, Vec3] | null {
	const depth = (p: Vec3) => dot(sub(p, view.position), view.forward) - NEAREST_M;
	const [da, db] = [depth(a), depth(b)];
	if (da < 0 && db < 0) return null;
	const at = add(a, scale(sub(b, a), da / (da - db || 1)));
	return [da < 0 ? at : a, db < 0 ? at : b];
}
