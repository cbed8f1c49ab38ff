/** Where lamps stand and what they are aimed at, for their marks and handles. */
import type { Lamp, ShotDocument } from "../../core/doc/schema.ts";
import { groundHeight } from "../../core/ground/height.ts";
import { lampPlaces } from "../../core/light/lamps.ts";
import { invert, type Mat34, normalize, sub, transformPoint, type Vec3 } from "../../core/maths/vec.ts";
import { pieceTransforms } from "../../core/shape/place.ts";

type Set = Pick<ShotDocument, "pieces" | "ground">;

/** The frame of the piece that carries a lamp (of its first copy), metres kept; null for a lamp that stands by itself. */
function carrierOf(lamp: Lamp, doc: Set): Mat34[] | null {
	const carrier = doc.pieces.find((p) => p.id === lamp.carriedBy);
	return carrier ? pieceTransforms({ ...carrier, size: [1, 1, 1] }, doc) : null;
}

/** All places of a lamp in the world, the first one first. */
export const placesOf = (lamp: Lamp, doc: Set) => lampPlaces(lamp, doc, carrierOf(lamp, doc) ?? []);

const round = (v: number) => Math.round(v * 1000) / 1000;

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
	return [round(own[0]), round(own[1]), round(own[2])];
}

const DEGREE = 180 / Math.PI;

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
	const headingDeg = Math.hypot(d[0], d[2]) < 1e-4 ? lamp.headingDeg : tenth(Math.atan2(d[0], -d[2]) * DEGREE);
	return { headingDeg, pitchDeg: tenth(Math.asin(Math.max(-1, Math.min(1, d[1]))) * DEGREE) };
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
