/** Bodies with measures in metres: built at a size, and handed on as bodies of a metre that the size stretches to it. */
import type { Mesh } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import type { Builder } from "./builder.ts";
import { type Geometry, geometryFrom } from "./geometry.ts";

/** Least length that is one, metres: what is rounded or walled by less is not. */
const LEAST_M = 5e-4;

export const isLength = (metres: number | undefined): metres is number => metres !== undefined && metres >= LEAST_M;

/** A mesh in metres as one that the size stretches to it. Normals go the other way, as normals do. */
function shrunk({ positions, normals, indices }: Mesh, size: Vec3): Mesh {
	const out = { positions: positions.slice(), normals: normals.slice(), indices };
	for (let i = 0; i < positions.length; i += 3) {
		let square = 0;
		for (let c = 0; c < 3; c++) {
			out.positions[i + c] = positions[i + c] / size[c];
			square += (normals[i + c] * size[c]) ** 2;
		}
		for (let c = 0; c < 3; c++) out.normals[i + c] = (normals[i + c] * size[c]) / Math.sqrt(square);
	}
	return out;
}

interface InMetres {
	/** The same with fewer faces. */
	coarse?: Builder;
	/** Its convex parts in metres; the whole without. */
	hulls?: readonly (readonly Vec3[])[];
	closed?: boolean;
	assembled?: boolean;
}

export const fromMetres = (body: Builder, size: Vec3, { coarse, hulls, closed, assembled }: InMetres = {}): Geometry =>
	geometryFrom(shrunk(body.mesh(), size), body.faces, {
		...(coarse && { coarse: shrunk(coarse.mesh(), size) }),
		...(closed !== undefined && { closed }),
		...(assembled && { assembled }),
		hulls: hulls?.map((hull) => hull.map(([x, y, z]): Vec3 => [x / size[0], y / size[1], z / size[2]])),
	});
