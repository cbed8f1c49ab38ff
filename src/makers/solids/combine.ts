/**
 * Bodies cut, joined and met, by the Manifold library (Apache 2.0): its booleans are exact about what is inside and always
 * give closed bodies (Smith and Dodgson 2007; Lalish). Corners keep their normals, which the library carries along; faces
 * keep their names.
 */
import type { Manifold, Mesh as ManifoldMesh, ManifoldToplevel } from "manifold-3d";
import type { Solid, Solids } from "../../core/scene/inputs.ts";
import type { Face } from "../../core/shape/geometry.ts";

/** A body as it could not be taken. */
export class SolidError extends Error {}

/** Place and normal of a corner. */
const PROPS = 6;

/** What the triangles of a run come from: which body, and the names of its faces. */
interface Source {
	of: string | null;
	faces: readonly Face[];
}

/** Makes what is asked for, one after the other; nothing of it stays in the library's memory. */
export class Combiner {
	private wasm: ManifoldToplevel;

	constructor(wasm: ManifoldToplevel) {
		this.wasm = wasm;
	}

	/** A body after what is done to it in turn; without triangles where nothing is left. Throws {@link SolidError} in a sentence. */
	combine({ base, acts }: Solids): Solid {
		const sources = new Map<number, Source>();
		const held: Manifold[] = [];
		const keep = (m: Manifold): Manifold => {
			held.push(m);
			return m;
		};
		try {
			let body = keep(this.taken(base, null, sources));
			for (const { kind, of, bodies } of acts) {
				const others = bodies.filter((b) => b.mesh.indices.length > 0).map((b) => keep(this.taken(b, of, sources)));
				const together = keep(this.wasm.Manifold.union(others));
				if (kind === "cut") body = keep(body.subtract(together));
				else if (kind === "join") body = keep(body.add(together));
				else body = keep(body.intersect(together));
			}
			return told(body.getMesh(), sources);
		} finally {
			for (const m of held) m.delete();
		}
	}

	/** A body as the library has it: corners that lie on one place are one. */
	private taken(
		{ mesh: { positions, normals, indices }, faces }: Solid,
		of: string | null,
		sources: Map<number, Source>,
	): Manifold {
		const { Manifold, Mesh } = this.wasm;
		const count = positions.length / 3;
		const vertProperties = new Float32Array(PROPS * count);
		for (let i = 0; i < count; i++) {
			vertProperties.set(positions.subarray(3 * i, 3 * i + 3), PROPS * i);
			vertProperties.set(normals.subarray(3 * i, 3 * i + 3), PROPS * i + 3);
		}
		const faceID = new Uint32Array(indices.length / 3);
		for (const [k, { begin, end }] of faces.entries()) faceID.fill(k, begin, end);
		const id = Manifold.reserveIDs(1);
		sources.set(id, { of, faces });
		const mesh = new Mesh({
			numProp: PROPS,
			vertProperties,
			triVerts: indices.slice(),
			faceID,
			runIndex: new Uint32Array([0, indices.length]),
			runOriginalID: new Uint32Array([id]),
		});
		mesh.merge();
		try {
			return Manifold.ofMesh(mesh);
		} catch {
			throw new SolidError("A body that is not closed can be neither cut nor joined nor met.");
		}
	}
}

/** What the library made, as a body: its triangles by faces, with normals that look out. */
function told(mesh: ManifoldMesh, sources: ReadonlyMap<number, Source>): Solid {
	const { numProp, vertProperties: v, triVerts, runIndex, runOriginalID, faceID } = mesh;
	const groups = new Map<string, { slot: number; triangles: { of: number; sign: 1 | -1 }[] }>();
	for (let run = 0; run < runOriginalID.length; run++) {
		const source = sources.get(runOriginalID[run]);
		const sign = mesh.backside(run) ? -1 : 1;
		/** Groups of this run by the number of a face: a name is put together once for each. */
		const own = new Map<number, { of: number; sign: 1 | -1 }[]>();
		for (let t = runIndex[run] / 3; t < runIndex[run + 1] / 3; t++) {
			let triangles = own.get(faceID[t]);
			if (!triangles) {
				const face = source?.faces[faceID[t]];
				const name = `${source?.of ? `${source.of} ` : ""}${face?.name ?? "face"}`;
				const group = groups.get(name) ?? { slot: face?.slot ?? 0, triangles: [] };
				groups.set(name, group);
				triangles = group.triangles;
				own.set(faceID[t], triangles);
			}
			triangles.push({ of: t, sign });
		}
	}
	const faces: Face[] = [];
	const positions: number[] = [];
	const normals: number[] = [];
	const indices: number[] = [];
	/** Which corner of what is told one of what was made has become, and in which face: others have their own. */
	const corners = new Int32Array(v.length / numProp);
	const inFace = new Int32Array(v.length / numProp).fill(-1);
	for (const [name, { slot, triangles }] of groups) {
		const begin = indices.length / 3;
		for (const { of: t, sign } of triangles) {
			const [a, b, c] = [numProp * triVerts[3 * t], numProp * triVerts[3 * t + 1], numProp * triVerts[3 * t + 2]];
			const [fx, fy, fz] = facing(v, a, b, c);
			for (let k = 0; k < 3; k++) {
				const corner = triVerts[3 * t + k];
				const i = numProp * corner;
				const [x, y, z] = [sign * v[i + 3], sign * v[i + 4], sign * v[i + 5]];
				const length = Math.sqrt(x * x + y * y + z * z);
				// What looks away from its own face, or nowhere, has the face's normal, in a corner of its own.
				const right = length > 0.1 && x * fx + y * fy + z * fz > 0;
				if (right && inFace[corner] === faces.length) {
					indices.push(corners[corner]);
					continue;
				}
				const number = positions.length / 3;
				positions.push(v[i], v[i + 1], v[i + 2]);
				if (right) {
					normals.push(x / length, y / length, z / length);
					corners[corner] = number;
					inFace[corner] = faces.length;
				} else normals.push(fx, fy, fz);
				indices.push(number);
			}
		}
		faces.push({ name, slot, begin, end: indices.length / 3 });
	}
	return {
		mesh: {
			positions: new Float32Array(positions),
			normals: new Float32Array(normals),
			indices: new Uint32Array(indices),
		},
		faces,
	};
}

/** Which way a triangle looks, of corners by where they begin. */
function facing(v: Float32Array, a: number, b: number, c: number): [number, number, number] {
	const [ux, uy, uz] = [v[b] - v[a], v[b + 1] - v[a + 1], v[b + 2] - v[a + 2]];
	const [wx, wy, wz] = [v[c] - v[a], v[c + 1] - v[a + 1], v[c + 2] - v[a + 2]];
	const [x, y, z] = [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx];
	const length = Math.sqrt(x * x + y * y + z * z) || 1;
	return [x / length, y / length, z / length];
}
