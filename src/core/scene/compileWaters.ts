/** Waters that lie in the land: their surfaces. */
import type { ShotDocument } from "../doc/schema.ts";
import { watersOf } from "../ground/height.ts";
import { keyOf } from "../maths/hash.ts";
import type { Vec3 } from "../maths/vec.ts";
import { ID_WATER } from "./ids.ts";
import { CODE, type Making } from "./making.ts";
import type { Material } from "./scene.ts";

export const WATER_INDEX = 1.33;

/** Extinction per metre: red is taken most. */
export function extinctionOf({ clarityM }: ShotDocument["water"]): Vec3 {
	// The way after which 2 % of contrast is left.
	const blue = 3.912 / clarityM;
	return [blue * 1.5, blue * 0.85, blue];
}

export function compileWaters(making: Making): void {
	const { ground, water } = making.whole;
	if (ground.out) return;
	const bodies = [...watersOf(ground)].filter(([, body]) => body.mesh.indices.length > 0);
	if (bodies.length === 0) return;
	const surface: Material = {
		colour: [0.9, 0.95, 0.96],
		roughness: 0.05,
		metal: 0,
		translucency: 0,
		glass: { pane: false, index: WATER_INDEX, tint: extinctionOf(water), water: true },
	};
	const material = making.material(surface);
	for (const [id, { mesh, x, z }] of bodies) {
		const { key } = making.part("mesh", keyOf("water in land", CODE, ground, id), () => ({ mesh }));
		making.draws.push({
			mesh: key,
			transform: [1, 0, 0, x, 0, 1, 0, ground.levelM ?? 0, 0, 0, 1, z],
			material,
			id: ID_WATER,
		});
	}
}
