/** Waters that lie in the land: their surfaces. */
import type { Camera, Water } from "../doc/schema.ts";
import { watersOf } from "../ground/height.ts";
import type { Wave } from "../ground/ripples.ts";
import { seaMesh } from "../ground/seaMesh.ts";
import { footOfWay, type LensFootprint } from "../ground/sight.ts";
import { seaOf, USUAL_FETCH_M } from "../ground/waves.ts";
import { widenedWay } from "../lens/character.ts";
import { keyOf } from "../maths/hash.ts";
import type { Vec3 } from "../maths/vec.ts";
import { ID_WATER } from "./ids.ts";
import { CODE, type Making } from "./making.ts";
import type { Material } from "./scene.ts";

export const WATER_INDEX = 1.33;

/** Extinction per metre: red is taken most. */
export function extinctionOf({ clarityM }: Water): Vec3 {
	// The way after which 2 % of contrast is left.
	const blue = 3.912 / clarityM;
	return [blue * 1.5, blue * 0.85, blue];
}

const surfaceOf = (water: Water): Material => ({
	colour: [0.9, 0.95, 0.96],
	roughness: 0.05,
	metal: 0,
	translucency: 0,
	glass: { pane: false, index: WATER_INDEX, tint: extinctionOf(water), water: true },
});

/** Waves whose crests are lower than this, metres, are no shapes. */
const LEAST_M = 0.03;

/**
 * The sea in the waves of its wind, for the lens of the moment; nothing where it has none, and while something is in hand.
 * @returns Whether it is there.
 */
export function compileSea(making: Making, waves: readonly Wave[], footOf: (camera: Camera) => LensFootprint): boolean {
	const { water, ground } = making.whole;
	const { windMs = 0, fetchM = USUAL_FETCH_M } = water;
	if (!water.on || windMs <= 0 || seaOf({ windMs, fetchM }).heightM < LEAST_M) return false;
	const feet = widenedWay([making.doc.camera], making.room).map(footOf);
	const [x, z] = footOfWay(feet);
	const { key } = making.part("mesh", keyOf("sea", CODE, water, ground.seed, making.timeS, feet), () => ({
		mesh: seaMesh(waves, water.levelM, feet),
	}));
	const material = making.material(surfaceOf(water));
	making.draws.push({
		mesh: key,
		transform: [1, 0, 0, x, 0, 1, 0, 0, 0, 0, 1, z],
		material,
		id: ID_WATER,
		traced: true,
	});
	return true;
}

export function compileWaters(making: Making): void {
	const { ground, water } = making.whole;
	if (ground.out) return;
	const bodies = [...watersOf(ground)].filter(([, body]) => body.mesh.indices.length > 0);
	if (bodies.length === 0) return;
	const material = making.material(surfaceOf(water));
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
