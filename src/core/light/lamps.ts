/** Lamps of the document as lights of a scene: places, aims, and strengths in candela or cd/m². */
import type { Lamp, ShotDocument } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { cos, DEG, sin } from "../maths/functions.ts";
import { cross, determinant, type Mat34, normalize, transformPoint, type Vec3 } from "../maths/vec.ts";
import { blackbody } from "./blackbody.ts";
import { LAMPS, type LightShape, type Measured } from "./lamp.ts";

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
	/** It is many small places all over a body: no lamp stands for it. */
	scattered?: boolean;
}

/** Strength of a lamp as the tracer takes it: candela on its axis of a point or spot, cd/m² of the others. */
export const lampStrength = (lamp: Measured & Pick<Lamp, "kind">): number =>
	LAMPS[lamp.kind].strength[lamp.strength.unit](lamp.strength.value, lamp);

/** Radius of a sphere or disc, half width and half height of a rectangle, metres. */
export const halfMeasures = ({ kind, sizeM: [w, h] }: Pick<Lamp, "kind" | "sizeM">): [number, number] => [
	w / 2,
	(LAMPS[kind].measures === 2 ? h : w) / 2,
];

/** Where a lamp stands and how it is turned. */
export type LampPlace = Pick<SceneLight, "position" | "axis" | "right" | "up">;

/** From the unit body of a lamp into the world; what is aimed is flat. */
export function bodyTransform(
	lamp: Pick<Lamp, "kind" | "sizeM">,
	{ position: p, axis: a, right: r, up: u }: LampPlace,
): Mat34 {
	const half = halfMeasures(lamp);
	const depth = LAMPS[lamp.kind].aims ? 1 : half[0];
	return [0, 1, 2].flatMap((c) => [r[c] * half[0], u[c] * half[1], -a[c] * depth, p[c]]);
}

/** Whether rays meet the lamp itself. */
export const hasBody = ({ seen, kind }: Pick<Lamp, "seen" | "kind">): boolean => seen && LAMPS[kind].body !== null;

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
export function lampPlaces(lamp: Lamp, doc: Pick<ShotDocument, "ground">, copies: readonly Mat34[]): LampPlace[] {
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
		const [axis, up] = [turn(aim.axis), turn(aim.up)];
		// On a copy that a mirror shows it hangs where the mirror shows it, and is no mirror's itself.
		const right = determinant(m) < 0 ? cross(axis, up) : turn(aim.right);
		return { position: transformPoint(m, lamp.position), axis, right, up };
	});
}
