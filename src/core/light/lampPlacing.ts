/** Where lamps stand and what they are aimed at, and what puts and aims them where a hand wants them. */
import type { Edit } from "../doc/edits.ts";
import type { Lamp, ShotDocument } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { asin, atan2, cos, DEG, millimetres, sin, TAU } from "../maths/functions.ts";
import {
	add,
	cross,
	dot,
	invert,
	length,
	type Mat34,
	normalize,
	scale,
	sub,
	transformPoint,
	type Vec3,
} from "../maths/vec.ts";
import { pieceFrames } from "../shape/place.ts";
import { LAMPS } from "./lamp.ts";
import { lampPlaces } from "./lamps.ts";

type Set = Pick<ShotDocument, "pieces" | "ground">;

/** The frame of the piece that carries a lamp (of its first copy), metres kept; null for a lamp that stands by itself. */
function carrierOf(lamp: Lamp, doc: Set): Mat34[] | null {
	const carrier = doc.pieces.find((p) => p.id === lamp.carriedBy);
	return carrier ? pieceFrames(carrier, doc) : null;
}

/** All places of a lamp in the world, the first one first. */
export const placesOf = (lamp: Lamp, doc: Set) => lampPlaces(lamp, doc, carrierOf(lamp, doc) ?? []);

/** Position in the document that puts a lamp at a place in the world. */
export function ownPosition(lamp: Lamp, doc: Set, world: Vec3): [number, number, number] {
	const carrier = carrierOf(lamp, doc)?.[0];
	const own = carrier
		? transformPoint(invert(carrier), world)
		: ([
				world[0],
				world[1] - (lamp.stands === "ground" ? groundHeight(doc.ground, world[0], world[2]) : 0),
				world[2],
			] as const);
	return [millimetres(own[0]), millimetres(own[1]), millimetres(own[2])];
}

/** Heading and pitch that aim a lamp at a place in the world. */
export function aimAt(lamp: Lamp, doc: Set, target: Vec3): { headingDeg: number; pitchDeg: number } {
	const place = placesOf(lamp, doc)[0]?.position ?? lamp.position;
	let d = normalize(sub(target, place));
	const carrier = carrierOf(lamp, doc)?.[0];
	if (carrier) {
		const back = invert(carrier);
		d = normalize(sub(transformPoint(back, target), transformPoint(back, place)));
	}
	const tenth = (v: number) => Math.round(v * 10) / 10;
	// Straight up and down keep the heading.
	const headingDeg = Math.hypot(d[0], d[2]) < 1e-4 ? lamp.headingDeg : tenth(atan2(d[0], -d[2]) / DEG);
	return { headingDeg, pitchDeg: tenth(asin(Math.max(-1, Math.min(1, d[1]))) / DEG) };
}

/** What a lamp's axis meets: the ground, or a place some metres along it. */
export function targetOf(place: { position: Vec3; axis: Vec3 }, doc: Set, far = 4): Vec3 {
	const { position: p, axis: a } = place;
	const at = (t: number): Vec3 => [p[0] + a[0] * t, p[1] + a[1] * t, p[2] + a[2] * t];
	if (a[1] < -0.05) {
		const t = (groundHeight(doc.ground, p[0], p[2]) - p[1]) / a[1];
		if (t > 0.05 && t < 60) return at(t);
	}
	return at(far);
}

/** The rim of a cone about the end of a beam, at most `mostM` wide, as `n` places in the world. */
export function coneRim(
	spot: { position: Vec3; axis: Vec3 },
	target: Vec3,
	coneDeg: number,
	n = 24,
	mostM = 200,
): Vec3[] {
	const wide = (Math.min(170, coneDeg) / 2) * DEG;
	const r = Math.min(mostM, (length(sub(target, spot.position)) * sin(wide)) / cos(wide));
	const a = normalize(cross(spot.axis, Math.abs(spot.axis[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0]));
	const b = cross(spot.axis, a);
	return Array.from({ length: n }, (_, i) => {
		const turn = (i * TAU) / n;
		return add(target, add(scale(a, r * cos(turn)), scale(b, r * sin(turn))));
	});
}

/** Full angle in degrees of a cone whose rim, across a beam's end, runs through a ray; null when the ray does not meet it. */
export function coneThrough(spot: { position: Vec3; axis: Vec3 }, target: Vec3, eye: Vec3, ray: Vec3): number | null {
	const t = dot(sub(target, eye), spot.axis) / (dot(ray, spot.axis) || 1e-9);
	if (!(t > 0)) return null;
	const rim = length(sub(add(eye, scale(ray, t)), target));
	const coneDeg = (2 * atan2(rim, length(sub(target, spot.position)))) / DEG;
	return Math.round(Math.min(178, Math.max(1, coneDeg)) * 10) / 10;
}

const LEAST_M = 0.01;
const MOST_M = 1000;

/** Measures of a lamp whose width and height grow by metres; one with a single measure grows by its width. */
export function lampMeasuresBy(lamp: Lamp, widerM: number, higherM: number): [number, number] {
	const limit = (v: number) => Math.round(Math.min(MOST_M, Math.max(LEAST_M, v)) * 100) / 100;
	const w = limit(lamp.sizeM[0] + widerM);
	return LAMPS[lamp.kind].measures === 2 ? [w, limit(lamp.sizeM[1] + higherM)] : [w, w];
}

/** Slides a lamp over the ground by metres to the east and south (x and z), at its height. */
export function slideLamp(lamp: Lamp, doc: Set, dx: number, dz: number): Edit {
	const [x, y, z] = placesOf(lamp, doc)[0]?.position ?? lamp.position;
	return { name: "lamp.set", id: lamp.id, change: { position: ownPosition(lamp, doc, [x + dx, y, z + dz]) } };
}
