/** How much of a scene each thing is: triangles that are traced for it, and what it encloses. */
import type { Piece } from "../doc/schema.ts";
import { meshVolume } from "../maths/mesh.ts";
import { determinant } from "../maths/vec.ts";
import type { MeshPart, Scene } from "../scene/scene.ts";
import { geometryOf } from "../shape/shapes.ts";

export interface Bulk {
	triangles: number;
	/** Cubic metres within all of its copies, which are counted twice where they overlap; null of what is not closed. */
	volumeM3: number | null;
}

/** Of all things of a scene, by their numbers in the id layer. `pieces` are those that it was compiled from. */
export function bulkOf({ root, parts }: Scene, pieces: readonly Piece[]): Map<number, Bulk> {
	const closed = new Set(pieces.filter((p) => geometryOf(p).closed).map((p) => p.id));
	const volumes = new Map<string, number>();
	const meshOf = (key: string) => (parts.get(key) as MeshPart).mesh;
	const out = new Map<number, Bulk>();
	const of = (id: number): Bulk => {
		const known = out.get(id) ?? { triangles: 0, volumeM3: closed.has(root.ids[id].id) ? 0 : null };
		out.set(id, known);
		return known;
	};
	for (const { id, mesh, flat = mesh, transform } of root.draws) {
		const bulk = of(id);
		bulk.triangles += meshOf(mesh).indices.length / 3;
		if (bulk.volumeM3 === null) continue;
		const unit = volumes.get(flat) ?? meshVolume(meshOf(flat));
		volumes.set(flat, unit);
		bulk.volumeM3 += unit * Math.abs(determinant(transform));
	}
	for (const { id, cells, meshes } of root.covers)
		for (const key of cells) {
			const part = parts.get(key);
			if (part?.kind !== "plants") continue;
			for (const variant of part.plants.variants) of(id).triangles += meshOf(meshes[variant]).indices.length / 3;
		}
	return out;
}
