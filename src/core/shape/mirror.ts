/** Bodies as a mirror shows them. */
import type { Mesh } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import type { Geometry } from "./geometry.ts";

export type Mirrored = readonly [boolean, boolean, boolean];

/** Mirrored about its middle along these axes (width, height, depth), so that it stays in its box. Faces keep their names. */
export function mirrored(geometry: Geometry, axes: Mirrored): Geometry {
	const about = axes.map((is, c) => (is ? geometry.bounds[c] + geometry.bounds[c + 3] : 0));
	const at = (v: number, c: number) => (axes[c] ? about[c] - v : v);
	const insideOut = axes.filter(Boolean).length % 2 === 1;
	const mesh = ({ positions, normals, indices }: Mesh): Mesh => ({
		positions: positions.map((v, i) => at(v, i % 3)),
		normals: normals.map((v, i) => (axes[i % 3] ? -v : v)),
		indices: insideOut ? indices.map((_, i) => indices[i - (i % 3) + [0, 2, 1][i % 3]]) : indices,
	});
	const body = mesh(geometry.mesh);
	const low = [0, 1, 2].map((c) => Math.fround(at(geometry.bounds[axes[c] ? c + 3 : c], c)));
	const high = [0, 1, 2].map((c) => Math.fround(at(geometry.bounds[axes[c] ? c : c + 3], c)));
	return {
		...geometry,
		mesh: body,
		coarse: geometry.coarse && mesh(geometry.coarse),
		bounds: [...low, ...high],
		hulls: geometry.hulls.map((hull) => hull.map((p): Vec3 => [at(p[0], 0), at(p[1], 1), at(p[2], 2)])),
	};
}
