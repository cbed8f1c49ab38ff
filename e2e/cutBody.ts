/** A body cut, joined and met, in any engine: a digest of what is made, and its faces. */
import type { ManifoldToplevel } from "manifold-3d";
import { newPiece } from "../src/core/doc/defaults.ts";
import type { ShapeKind } from "../src/core/doc/schema.ts";
import { meshVolume } from "../src/core/maths/mesh.ts";
import type { Vec3 } from "../src/core/maths/vec.ts";
import type { Solid } from "../src/core/scene/inputs.ts";
import { geometryOf } from "../src/core/shape/shapes.ts";
import { Combiner } from "../src/makers/solids/combine.ts";

function solid(kind: ShapeKind, size: Vec3, at: Vec3): Solid {
	const { mesh, faces } = geometryOf(newPiece("", kind, { size: [...size] }));
	return { mesh: { ...mesh, positions: mesh.positions.map((v, i) => v * size[i % 3] + at[i % 3]) }, faces };
}

export function cutBody(wasm: ManifoldToplevel) {
	wasm.setup();
	const { mesh, faces } = new Combiner(wasm).combine({
		base: solid("arch", [5, 4, 1], [0, 0, 0]),
		acts: [
			{ kind: "join", of: "dome", bodies: [solid("dome", [2, 1.5, 2], [0.3, 3.6, 0])] },
			{ kind: "cut", of: "holes", bodies: [-1.5, 1.6].map((x) => solid("cylinder", [0.7, 3, 0.7], [x, 1.1, 0.2])) },
			{ kind: "meet", of: "ball", bodies: [solid("sphere", [5.2, 6, 3], [0, -0.6, 0])] },
		],
	});
	let sum = 0;
	for (const a of [mesh.positions, mesh.normals, mesh.indices])
		for (const b of new Uint8Array(a.buffer, a.byteOffset, a.byteLength)) sum = (Math.imul(sum, 31) + b) | 0;
	return { sum, faces: faces.map((f) => f.name), volume: meshVolume(mesh), triangles: mesh.indices.length / 3 };
}
