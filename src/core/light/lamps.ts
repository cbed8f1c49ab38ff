/** Lamps of the document as lights of a scene: places, aims, and strengths in candela or cd/m². */
import type { Lamp, ShotDocument } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { atan, cos, DEG, sin } from "../maths/functions.ts";
import { type Mat34, normalize, transformPoint, type Vec3 } from "../maths/vec.ts";
import { blackbody } from "./blackbody.ts";

export type LightShape = "point" | "spot" | "sphere" | "disc" | "rectangle" | "body";

/** A light of the scene, in world metres. */
export interface SceneLight {
	/** Layer that its light is summed in. */
	layer: number;
	shape: LightShape;
	position: Vec3;
	/** Where it shines; unit vectors, `right` and `up` along a rectangle's sides. */
	axis: Vec3;
	right: Vec3;
	up: Vec3;
	/** Radius of a sphere or disc; half width and half height of a rectangle. */
	half: [number, number];
	/** Cosines at which a spot begins to fade, and is dark. */
	cosInner: number;
	cosOuter: number;
	/** Candela of a point or spot on its axis, cd/m² of the others; scene-linear RGB. */
	rgb: Vec3;
	/** Number in the id layer. */
	id: number;
	/** Draw that shows it, −1 when rays cannot meet it. */
	draw: number;
}

/** Steradians of a cone whose light fades smoothly between two cosines; the strength on the axis times this is its flux. */
export const coneSteradians = (cosInner: number, cosOuter: number): number =>
	2 * Math.PI * (1 - cosInner + (cosInner - cosOuter) / 2);

/** Cosines between which a spot fades; the cone's full angle is where it is dark. */
export function coneCosines(lamp: Pick<Lamp, "coneDeg" | "softness">): { cosInner: number; cosOuter: number } {
	const half = (lamp.coneDeg / 2) * DEG;
	return { cosOuter: cos(half), cosInner: cos(half * (1 - Math.max(0.02, lamp.softness))) };
}

/** Area in m² that a lamp of a size shines from: the sphere's surface, the face of a disc or rectangle. */
export function lampArea({ kind, sizeM: [w, h] }: Pick<Lamp, "kind" | "sizeM">): number {
	if (kind === "sphere") return Math.PI * w * w;
	if (kind === "disc") return (Math.PI * w * w) / 4;
	return kind === "rectangle" ? w * h : 0;
}

/**
 * Strength of a lamp as the tracer takes it: candela on its axis of a point or spot, cd/m² of the others. Lumen count
 * all of its light, lux are met on its axis at the stated distance from its middle.
 */
export function lampStrength(lamp: Pick<Lamp, "kind" | "sizeM" | "coneDeg" | "softness" | "strength">): number {
	const { kind, strength } = lamp;
	const { value, unit, atM } = strength;
	const area = lampArea(lamp);
	if (kind === "point" || kind === "spot") {
		if (unit === "candela") return value;
		if (unit === "lux") return value * atM * atM;
		const { cosInner, cosOuter } = coneCosines(lamp);
		return value / (kind === "point" ? 4 * Math.PI : coneSteradians(cosInner, cosOuter));
	}
	if (unit === "lumen") return value / (Math.PI * area);
	const r2 = (lamp.sizeM[0] * lamp.sizeM[0]) / 4;
	if (unit === "candela") return value / (kind === "sphere" ? Math.PI * r2 : area);
	// Lux at a distance: form factors of a facing disc and of a sphere; a rectangle by its corners (Lambert's formula).
	if (kind === "sphere") return (value * Math.max(atM * atM, r2)) / (Math.PI * r2);
	if (kind === "disc") return (value * (atM * atM + r2)) / (Math.PI * r2);
	return value / facingRectangle(lamp.sizeM[0] / 2, lamp.sizeM[1] / 2, atM);
}

/** Illuminance, for luminance 1, at a distance before the middle of a rectangle of half sides a and b. */
function facingRectangle(a: number, b: number, distance: number): number {
	const x = a / distance;
	const y = b / distance;
	const p = Math.sqrt(1 + x * x);
	const q = Math.sqrt(1 + y * y);
	return 2 * ((x / p) * atan(y / p) + (y / q) * atan(x / q));
}

/** Colour of a lamp, luminance 1 before its filter. */
export function lampColour({ kelvin, filter }: Pick<Lamp, "kelvin" | "filter">): Vec3 {
	const c = blackbody(kelvin);
	return [c[0] * filter[0], c[1] * filter[1], c[2] * filter[2]];
}

/** Lamps that shine: those played solo, or all that are not muted. */
export function shining(lamps: readonly Lamp[]): Lamp[] {
	const solo = lamps.filter((l) => l.solo && !l.muted);
	return solo.length > 0 ? solo : lamps.filter((l) => !l.muted);
}

/** Axes of an aim: heading clockwise from −Z seen from above, pitch upwards. */
export function aimAxes(headingDeg: number, pitchDeg: number): { axis: Vec3; right: Vec3; up: Vec3 } {
	const [sh, ch, sp, cp] = [sin(headingDeg * DEG), cos(headingDeg * DEG), sin(pitchDeg * DEG), cos(pitchDeg * DEG)];
	return { axis: [sh * cp, sp, -ch * cp], right: [ch, 0, sh], up: [-sh * sp, cp, ch * sp] };
}

/** World places and aims of a lamp: one, or one for each copy of the piece that carries it. `copies` are that piece's transforms without its size. */
export function lampPlaces(
	lamp: Lamp,
	doc: Pick<ShotDocument, "ground">,
	copies: readonly Mat34[],
): { position: Vec3; axis: Vec3; right: Vec3; up: Vec3 }[] {
	const aim = aimAxes(lamp.headingDeg, lamp.pitchDeg);
	if (lamp.carriedBy === null) {
		const [x, y, z] = lamp.position;
		return [{ position: [x, y + (lamp.stands === "ground" ? groundHeight(doc.ground, x, z) : 0), z], ...aim }];
	}
	return copies.map((m) => {
		const turn = (v: Vec3): Vec3 =>
			normalize([
				m[0] * v[0] + m[1] * v[1] + m[2] * v[2],
				m[4] * v[0] + m[5] * v[1] + m[6] * v[2],
				m[8] * v[0] + m[9] * v[1] + m[10] * v[2],
			]);
		return {
			position: transformPoint(m, lamp.position),
			axis: turn(aim.axis),
			right: turn(aim.right),
			up: turn(aim.up),
		};
	});
}
