/** Waters that lie in the land: their surfaces. */
import { isSeen } from "../doc/acts.ts";
import type { Camera, Piece, Water } from "../doc/schema.ts";
import { distanceTo, footprints } from "../dress/footprints.ts";
import { watersOf } from "../ground/height.ts";
import { onPlanet, type Planet } from "../ground/planet.ts";
import type { Wave } from "../ground/ripples.ts";
import { seaMesh } from "../ground/seaMesh.ts";
import { footOfWay, type LensFootprint } from "../ground/sight.ts";
import { CALM_M, fanBefore, foamOf, type InSea } from "../ground/water/foam.ts";
import { seaOf, USUAL_FETCH_M } from "../ground/waves.ts";
import { widenedWay } from "../lens/character.ts";
import { keyOf } from "../maths/hash.ts";
import type { Mesh } from "../maths/mesh.ts";
import type { Vec3 } from "../maths/vec.ts";
import { outermost } from "../shape/place.ts";
import { ID_WATER } from "./ids.ts";
import { CODE, type Making } from "./making.ts";
import type { Material, SceneWater } from "./scene.ts";

export const WATER_INDEX = 1.33;

/** Extinction per metre: red is taken most. */
export function extinctionOf({ clarityM }: Water): Vec3 {
	// The way after which 2 % of contrast is left.
	const blue = 3.912 / clarityM;
	return [blue * 1.5, blue * 0.85, blue];
}

const surfaceOf = (water: Water, runs?: number): Material => ({
	colour: [0.9, 0.95, 0.96],
	roughness: 0.05,
	metal: 0,
	translucency: 0,
	glass: { pane: false, index: WATER_INDEX, tint: extinctionOf(water), water: true, ...(runs && { runs }) },
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
	const { key } = making.part(
		"mesh",
		keyOf("sea", CODE, water, ground.seed, making.timeS, feet, making.planet),
		() => ({
			mesh: seaMesh(waves, water.levelM, feet, making.planet),
		}),
	);
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

/** A surface over flat land, bent about a planet; its positions count from a place. */
function bent(planet: Planet | null, mesh: Mesh, [fx, fy, fz]: Vec3): Mesh {
	if (!planet) return mesh;
	const positions = mesh.positions.slice();
	for (let i = 0; i < positions.length; i += 3) {
		const [x, y, z] = onPlanet(planet, [positions[i] + fx, positions[i + 1] + fy, positions[i + 2] + fz]);
		positions[i] = x - fx;
		positions[i + 1] = y - fy;
		positions[i + 2] = z - fz;
	}
	return { ...mesh, positions };
}

/** Pieces that stand in the sea: their places reach from under its level to over it. */
const standingIn = ({ doc }: Making, levelM: number): Piece[] =>
	doc.pieces.filter((piece) => {
		if (!isSeen(piece)) return false;
		const heights = outermost(piece, doc).map((p) => p[1]);
		return Math.min(...heights) < levelM && Math.max(...heights) > levelM;
	});

const inSea = (piece: Piece): InSea[] =>
	footprints([piece]).map((print) => ({
		x: print.x,
		z: print.z,
		reachM: print.reach,
		farM: (x, z, most) => distanceTo(print, x, z, most),
	}));

/** Foam before the lens of the moment; null where the sea has no wind, or is calm. */
export function compileFoam(
	making: Making,
	waves: readonly Wave[],
	footOf: (camera: Camera) => LensFootprint,
): SceneWater["foam"] | null {
	const { water, ground } = making.whole;
	const { windMs = 0, fetchM = USUAL_FETCH_M, levelM } = water;
	if (!water.on || windMs <= 0) return null;
	const { heightM } = seaOf({ windMs, fetchM });
	if (heightM < CALM_M) return null;
	const [camera] = widenedWay([making.doc.camera], making.room);
	const fan = fanBefore(footOf(camera));
	const pieces = standingIn(making, levelM);
	const { key } = making.part("table", keyOf("foam", CODE, water, ground, making.timeS, fan, pieces), () => ({
		data: foamOf(ground.out ? null : ground, { levelM, windMs, heightM, waves }, pieces.flatMap(inSea), fan),
	}));
	return { ...fan, shares: key };
}

export function compileWaters(making: Making): void {
	const { ground, water } = making.whole;
	if (ground.out) return;
	const bodies = [...watersOf(ground)].filter(([, body]) => body.mesh.indices.length > 0);
	if (bodies.length === 0) return;
	for (const [id, { mesh, x, z, runs }] of bodies) {
		const material = making.material(surfaceOf(water, runs));
		const level = ground.levelM ?? 0;
		const { key } = making.part("mesh", keyOf("water in land", CODE, ground, id, making.planet), () => ({
			mesh: bent(making.planet, mesh, [x, level, z]),
		}));
		making.draws.push({
			mesh: key,
			transform: [1, 0, 0, x, 0, 1, 0, level, 0, 0, 1, z],
			material,
			id: ID_WATER,
		});
	}
}
