/** A ray against a body, one triangle after the other: for hands, which ask once; pictures ask the tracer. */
import type { Mesh } from "../maths/mesh.ts";
import { cross, dot, sub, type Vec3 } from "../maths/vec.ts";

/** Where a ray meets a mesh, in lengths of its direction, and a normal of the triangle there, of any length. */
export interface Met {
	t: number;
	normal: Vec3;
}

/**
 * Nearest place of a mesh along a ray; null when it meets none. Möller and Trumbore, "Fast, Minimum Storage Ray/Triangle Intersection",
 * 1997, from both sides.
 */
export function meetTriangle({ positions, indices }: Mesh, from: Vec3, along: Vec3): Met | null {
	const at = (i: number): Vec3 => [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]];
	let met: Met | null = null;
	for (let i = 0; i < indices.length; i += 3) {
		const a = at(indices[i]);
		const ab = sub(at(indices[i + 1]), a);
		const ac = sub(at(indices[i + 2]), a);
		const p = cross(along, ac);
		const det = dot(ab, p);
		if (det === 0) continue;
		const s = sub(from, a);
		const u = dot(s, p) / det;
		if (u < -1e-9 || u > 1 + 1e-9) continue;
		const q = cross(s, ab);
		const v = dot(along, q) / det;
		if (v < -1e-9 || u + v > 1 + 1e-9) continue;
		const t = dot(ac, q) / det;
		if (t > 0 && t < (met?.t ?? Infinity)) met = { t, normal: cross(ab, ac) };
	}
	return met;
}

/** The same, how far along the ray alone. */
export const meetMesh = (mesh: Mesh, from: Vec3, along: Vec3): number | null =>
	meetTriangle(mesh, from, along)?.t ?? null;
