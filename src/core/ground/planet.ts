/**
 * The planet that land and water lie on. Heights of the land are those over its sea, whichever lens looks; what a picture is made of is
 * bent about the place where a level plane touches the planet: under the lens, or near by, so that the lens keeps its own level.
 *
 * Light goes straight: refraction near the ground, which lets one see about 8 % farther, is left out.
 */
import { acos, cos, sin } from "../maths/functions.ts";
import type { Mat34, Vec3 } from "../maths/vec.ts";

/** Mean radius of the Earth, metres (IUGG). */
export const EARTH_M = 6_371_009;

/** A planet, and the place where it is level with the scene: all in metres. */
export interface Planet {
	radiusM: number;
	x: number;
	z: number;
}

/** The radius of a ground's planet, metres; null where the world is flat. */
export const radiusOf = ({ planetKm }: { planetKm?: number | null }): number | null =>
	planetKm === undefined ? EARTH_M : planetKm === null ? null : planetKm * 1000;

/**
 * A planet is level at corners of squares of this side, metres of the Earth and less of what is smaller: a lens that stays in one sees the same
 * world, and is off its level by less than 0.05 px.
 */
export const levelM = (radiusM: number): number => 256 * Math.min(1, radiusM / EARTH_M);

/** The planet about a place; null where the world is flat. */
export function planetAbout(ground: { planetKm?: number | null }, x: number, z: number): Planet | null {
	const radiusM = radiusOf(ground);
	if (radiusM === null) return null;
	const side = levelM(radiusM);
	const at = (v: number) => Math.round(v / side) * side;
	return { radiusM, x: at(x), z: at(z) };
}

/** How far a planet has sunk below a level line after so many metres: to second order, within 0.1 % over 200 km of the Earth. */
export const sunkM = (radiusM: number | null, awayM: number): number =>
	radiusM === null ? 0 : (awayM * awayM) / (2 * radiusM);

/** By how much the horizon of an eye at a height lies below the level, radians. */
export const dipOf = (radiusM: number, heightM: number): number =>
	heightM <= 0 ? 0 : acos(radiusM / (radiusM + heightM));

/** The way over the ground to that horizon, metres. */
export const horizonM = (radiusM: number, heightM: number): number => radiusM * dipOf(radiusM, heightM);

/** 1 − cos, without loss where the angle is small. */
function versine(angle: number): number {
	const half = sin(angle / 2);
	return 2 * half * half;
}

/** The place in the scene of what lies at (x, z) of the land, y over its sea. */
export function onPlanet({ radiusM, x: px, z: pz }: Planet, [x, y, z]: Vec3): Vec3 {
	const [dx, dz] = [x - px, z - pz];
	const away = Math.sqrt(dx * dx + dz * dz);
	if (away === 0) return [x, y, z];
	const angle = away / radiusM;
	const k = ((radiusM + y) * sin(angle)) / away;
	return [px + dx * k, y * cos(angle) - radiusM * versine(angle), pz + dz * k];
}

/** How what stands at (x, z) leans there, as the rows of a turn: away from the place where the planet is level. */
function leaning({ radiusM, x: px, z: pz }: Planet, x: number, z: number): readonly number[] {
	const [dx, dz] = [x - px, z - pz];
	const away = Math.sqrt(dx * dx + dz * dz);
	if (away === 0) return [1, 0, 0, 0, 1, 0, 0, 0, 1];
	const angle = away / radiusM;
	const [s, v, ux, uz] = [sin(angle), versine(angle), dx / away, dz / away];
	return [1 - v * ux * ux, s * ux, -v * ux * uz, -s * ux, 1 - v, -s * uz, -v * ux * uz, s * uz, 1 - v * uz * uz];
}

/** What is so near that the planet has sunk by two centimetres at most, a twentieth of a pixel, stands as it would on flat land. */
const NEAR_M = 500;

export const isLevel = ({ radiusM, x: px, z: pz }: Planet, [x, , z]: Vec3): boolean =>
	Math.hypot(x - px, z - pz) < NEAR_M * Math.min(1, radiusM / EARTH_M);

export const samePlanet = (a: Planet | null, b: Planet | null): boolean =>
	a === b || (!!a && !!b && a.radiusM === b.radiusM && a.x === b.x && a.z === b.z);

/** A placement over flat land as it stands on the planet. */
export function placedOn(planet: Planet | null, m: Mat34): Mat34 {
	if (!planet || isLevel(planet, [m[3], m[7], m[11]])) return m;
	const r = leaning(planet, m[3], m[11]);
	const at = onPlanet(planet, [m[3], m[7], m[11]]);
	return Array.from({ length: 12 }, (_, i) => {
		const [row, c] = [Math.floor(i / 4), i % 4];
		return c === 3 ? at[row] : r[3 * row] * m[c] + r[3 * row + 1] * m[4 + c] + r[3 * row + 2] * m[8 + c];
	});
}

/** A direction over flat land at a place, as it is there on the planet. */
export function turnedOn(planet: Planet | null, [x, , z]: Vec3, d: Vec3): Vec3 {
	if (!planet) return d;
	const r = leaning(planet, x, z);
	const row = (k: number) => r[k] * d[0] + r[k + 1] * d[1] + r[k + 2] * d[2];
	return [row(0), row(3), row(6)];
}

/**
 * Metres along a ray (its direction of length 1) to the sea at a level; Infinity where it does not meet it ahead. In the sea, the way
 * out of it.
 */
export function seaAhead(planet: Planet | null, levelM: number, [x, y, z]: Vec3, [dx, dy, dz]: Vec3): number {
	if (!planet) {
		const t = (levelM - y) / dy;
		return t > 0 ? t : Number.POSITIVE_INFINITY;
	}
	const radius = planet.radiusM + levelM;
	const [ox, oz, h] = [x - planet.x, z - planet.z, y - levelM];
	const b = ox * dx + oz * dz + (radius + h) * dy;
	const c = ox * ox + oz * oz + h * (2 * radius + h);
	const d = b * b - c;
	if (d < 0 || (c > 0 && b >= 0)) return Number.POSITIVE_INFINITY;
	const root = Math.sqrt(d);
	return c > 0 ? c / (root - b) : b > 0 ? -c / (b + root) : root - b;
}

/** The open horizon of a lens: of the sea where there is one, of land at its own level elsewhere. */
export function horizonOf({
	ground,
	water,
	camera,
}: {
	ground: { planetKm?: number | null; levelM?: number };
	water: { on: boolean; levelM: number };
	camera: { position: readonly number[] };
}): { dip: number; awayM: number } {
	const radiusM = radiusOf(ground);
	if (radiusM === null) return { dip: 0, awayM: Number.POSITIVE_INFINITY };
	const level = water.on ? water.levelM : (ground.levelM ?? 0);
	const dip = dipOf(radiusM + level, camera.position[1] - level);
	return { dip, awayM: dip * (radiusM + level) };
}
