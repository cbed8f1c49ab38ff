/** Small scenes with known answers, for the tests of the tracer. */

import { skyGrid } from "../core/air/dome.ts";
import { blankShot, newPiece } from "../core/doc/defaults.ts";
import type { PieceKind } from "../core/doc/schema.ts";
import type { Vec3 } from "../core/maths/vec.ts";
import { placement } from "../core/maths/vec.ts";
import type { Material, Scene, ScenePart } from "../core/scene/scene.ts";
import { primitiveMesh } from "../core/shape/primitives.ts";

export interface Body {
	kind: PieceKind;
	position: Vec3;
	size: Vec3;
	material?: Partial<Material>;
}

/** A scene of bodies under a sun, no sky tables (pair it with a uniform sky), no air. The lens looks along −Z from the origin. */
export function testScene(
	bodies: Body[],
	over: { sunLux?: Vec3; sunDirection?: Vec3; fog?: Partial<Scene["root"]["fog"]>; water?: Scene["root"]["water"]; camera?: Partial<Scene["root"]["camera"]> } = {},
): Scene {
	const doc = blankShot();
	const parts = new Map<string, ScenePart>();
	const table = (key: string, data: Float32Array) => parts.set(key, { kind: "table", key, data });
	table("sky", new Float32Array(64 * 96 * 3));
	table("cloud", new Float32Array(512 * 512));
	table(
		"grid",
		skyGrid(() => [1, 1, 1]),
	);
	for (const b of bodies) parts.set(b.kind, { kind: "mesh", key: b.kind, mesh: primitiveMesh(b.kind) });
	const zero: Vec3 = [0, 0, 0];
	return {
		root: {
			camera: { ...doc.camera, position: [0, 0, 0], focusM: null, fStop: 64, ratio: 1, film: { widthMm: 24, heightMm: 24 }, focalMm: 24, ...over.camera },
			finish: doc.finish,
			dome: {
				sunDirection: over.sunDirection ?? [0, 1, 0],
				sunLux: over.sunLux ?? zero,
				cloudSun: zero,
				cloudAmbient: zero,
				airPerM: zero,
				sky: "sky",
				cloud: "cloud",
				grid: "grid",
			},
			fog: { sigma0: 0, y0: 0, scaleM: Number.POSITIVE_INFINITY, g: 0, albedo: [1, 1, 1], skyClear: false, ...over.fog },
			water: over.water ?? null,
			materials: bodies.map((b) => ({ colour: [1, 1, 1], roughness: 0.5, metal: 0, translucency: 0, ...b.material })),
			draws: bodies.map((b, i) => ({ mesh: b.kind, transform: placement(b.position, 0, b.size), material: i, id: 3 + i })),
			covers: [],
			ids: [],
		},
		parts,
	};
}

export { newPiece };
