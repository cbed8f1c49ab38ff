/** Bodies of lamps for rays to meet: unit meshes that have the same area as the round shapes that they stand for. */
import { cos, sin, TAU } from "../maths/functions.ts";
import type { Mesh } from "../maths/mesh.ts";
import { geometryOf } from "../shape/shapes.ts";

const SIDES = 96;

/** A flat face in the plane z = 0 that looks towards −Z. */
function face(corners: [number, number][]): Mesh {
	const indices: number[] = [];
	for (let i = 1; i + 1 < corners.length; i++) indices.push(0, i + 1, i);
	return {
		positions: new Float32Array(corners.flatMap(([x, y]) => [x, y, 0])),
		normals: new Float32Array(corners.flatMap(() => [0, 0, -1])),
		indices: new Uint32Array(indices),
	};
}

/** Area of a mesh's triangles under a linear map (identity when none is given), each and all. */
export function triangleAreas(
	mesh: Pick<Mesh, "positions" | "indices">,
	m: ArrayLike<number> = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0],
): Float64Array {
	const { positions: p, indices } = mesh;
	const out = new Float64Array(indices.length / 3);
	for (let t = 0; t < out.length; t++) {
		const [a, b, c] = [indices[t * 3] * 3, indices[t * 3 + 1] * 3, indices[t * 3 + 2] * 3];
		const side = (q: number) =>
			[0, 4, 8].map((r) => m[r] * (p[q] - p[a]) + m[r + 1] * (p[q + 1] - p[a + 1]) + m[r + 2] * (p[q + 2] - p[a + 2]));
		const [u, v] = [side(b), side(c)];
		const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
		out[t] = 0.5 * Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
	}
	return out;
}

/** A rectangle of half sides 1. */
export const rectangleMesh = (): Mesh =>
	face([
		[-1, -1],
		[1, -1],
		[1, 1],
		[-1, 1],
	]);

/** A disc of radius 1, of the same area as the circle. */
export function discMesh(): Mesh {
	const r = Math.sqrt(Math.PI / ((SIDES / 2) * sin(TAU / SIDES)));
	return face(
		Array.from({ length: SIDES }, (_, i): [number, number] => [r * cos((i * TAU) / SIDES), r * sin((i * TAU) / SIDES)]),
	);
}

/** A ball of radius 1, of the same area as the sphere: the mean shadow of a convex body is a quarter of it (Cauchy). */
export function ballMesh(): Mesh {
	const ball = geometryOf({ shape: { kind: "sphere" }, size: [1, 1, 1] }).mesh;
	const area = triangleAreas(ball).reduce((s, a) => s + a, 0);
	const k = Math.sqrt((4 * Math.PI) / area);
	return { ...ball, positions: ball.positions.map((v, i) => (i % 3 === 1 ? v - 0.5 : v) * k) };
}
