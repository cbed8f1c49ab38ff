/** Water that lies in the land, and what all of it has in common. */
import type { Mesh } from "../../maths/mesh.ts";

export interface WaterBody {
	/** Its surface; positions from a place (right and towards, metres), heights over the ground's own level. */
	mesh: Mesh;
	x: number;
	z: number;
	/** Height of its surface over a place, also where its shore has risen over it; null where there is none of it. */
	levelAt: (x: number, z: number) => number | null;
	/** How fast it runs, m/s, for a slope of 1; none of what stands. */
	runs?: number;
	/** What it comes to, in words. */
	told: string;
}

/** A surface of level-wise triangles, all of which look up. */
export function surfaceMesh(positions: readonly number[], indices: readonly number[]): Mesh {
	const normals = new Float32Array(positions.length);
	for (let i = 1; i < normals.length; i += 3) normals[i] = 1;
	return { positions: Float32Array.from(positions), normals, indices: Uint32Array.from(indices) };
}
