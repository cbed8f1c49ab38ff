/** What can be told of a face of a body. */
import type { Mesh } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import type { Face } from "./geometry.ts";

/** Part of its sides by which the corners of a parallelogram may miss each other. */
const EVEN = 1e-5;

/** The four corners of a face that is one flat parallelogram of two triangles, in their order around it; else null. */
export function parallelogram({ positions, indices }: Mesh, { begin, end }: Face): Vec3[] | null {
	if (end - begin !== 2) return null;
	const [a, b, c, a2, c2, d] = indices.subarray(3 * begin, 3 * end);
	if (a !== a2 || c !== c2) return null;
	const corners = [a, b, c, d].map((i): Vec3 => [positions[3 * i], positions[3 * i + 1], positions[3 * i + 2]]);
	const [p, q, r, s] = corners;
	const side = Math.max(...[0, 1, 2].map((k) => Math.abs(r[k] - p[k])));
	return [0, 1, 2].every((k) => Math.abs(p[k] + r[k] - q[k] - s[k]) <= EVEN * side) ? corners : null;
}
