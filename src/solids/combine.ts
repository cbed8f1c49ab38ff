/**
 * Bodies cut, joined and met, by the Manifold library (Apache 2.0): its booleans are exact about what is inside and always
 * give closed bodies (Smith and Dodgson 2007; Lalish). Corners keep their normals, which the library carries along; faces
 * keep their names.
 */
import type { Manifold, Mesh as ManifoldMesh, ManifoldToplevel } from "manifold-3d";
import type { Solid, Solids } from "../core/scene/inputs.ts";
import type { Face } from "../core/shape/geometry.ts";

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
				const others = bodies.map((b) => keep(this.taken(b, of, sources)));
				const together = others.length > 1 ? keep(this.wasm.Manifold.union(others)) : others[0];
				if (!together) continue;
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
	const groups = new Map<string, { slot: number; triangles: number[] }>();
	const backs = new Set<number>();
	for (let run = 0; run < runOriginalID.length; run++) {
		const source = sources.get(runOriginalID[run]);
		const back = mesh.backside(run);
		for (let t = runIndex[run] / 3; t < runIndex[run + 1] / 3; t++) {
			const face = source?.faces[faceID[t]];
			const name = `${source?.of ? `${source.of} ` : ""}${face?.name ?? "face"}`;
			const group = groups.get(name) ?? { slot: face?.slot ?? 0, triangles: [] };
			groups.set(name, group);
			group.triangles.push(t);
			if (back) backs.add(t);
		}
	}
	const faces: Face[] = [];
	const positions: number[] = [];
	const normals: number[] = [];
	const indices: number[] = [];
	for (const [name, { slot, triangles }] of groups) {
		const begin = indices.length / 3;
		/** Corners of this face, by their number in what was made. */
		const own = new Map<number, number>();
		for (const t of triangles) {
			const at = [0, 1, 2].map((k) => numProp * triVerts[3 * t + k]);
			const n = facing(v, at);
			const sign = backs.has(t) ? -1 : 1;
			for (const i of at) {
				const [x, y, z] = [sign * v[i + 3], sign * v[i + 4], sign * v[i + 5]];
				const length = Math.sqrt(x * x + y * y + z * z);
				// What looks away from its own face, or nowhere, has the face's normal, in a corner of its own.
				const right = length > 0.1 && x * n[0] + y * n[1] + z * n[2] > 0;
				const held = right ? own.get(i) : undefined;
				if (held !== undefined) {
					indices.push(held);
					continue;
				}
				const number = positions.length / 3;
				positions.push(v[i], v[i + 1], v[i + 2]);
				normals.push(...(right ? [x / length, y / length, z / length] : n));
				indices.push(number);
				if (right) own.set(i, number);
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

/** Which way a triangle looks. */
function facing(v: Float32Array, [a, b, c]: number[]): [number, number, number] {
	const [ux, uy, uz] = [v[b] - v[a], v[b + 1] - v[a + 1], v[b + 2] - v[a + 2]];
	const [wx, wy, wz] = [v[c] - v[a], v[c + 1] - v[a + 1], v[c + 2] - v[a + 2]];
	const n: [number, number, number] = [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx];
	const length = Math.hypot(...n) || 1;
	return [n[0] / length, n[1] / length, n[2] / length];
}
