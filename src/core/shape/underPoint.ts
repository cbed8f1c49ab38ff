/** What of the set lies under a place of the frame, in any view: pieces, the ground, level zero; and what stands there. */
import { isSeen } from "../doc/acts.ts";
import type { Piece, ShotDocument, Stands } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { groundUnder, type Point } from "../ground/underPoint.ts";
import { type FrameOfView, rayThrough } from "../lens/camera.ts";
import {
	add,
	boundsOf,
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
import { type Met, meetTriangle } from "./meetMesh.ts";
import { FAR_UP, pieceFrames, pieceTransforms, topOf } from "./place.ts";
import { geometryOf } from "./shapes.ts";

type Set = Pick<ShotDocument, "pieces" | "ground">;

/** Whether a ray passes through a box (three lows, three highs) before a distance. */
function passes(b: readonly number[], from: Vec3, along: Vec3, before: number): boolean {
	let [near, far] = [0, before];
	for (let c = 0; c < 3; c++) {
		const [t0, t1] = [(b[c] - from[c]) / along[c], (b[c + 3] - from[c]) / along[c]];
		near = Math.max(near, Math.min(t0, t1));
		far = Math.min(far, Math.max(t0, t1));
	}
	return near <= far;
}

/** The nearest piece under a place of the frame and where it is met. */
export function pieceUnder(view: FrameOfView, doc: Set, at: Point): { piece: Piece; place: Vec3 } | null {
	return pieceMet(doc, view.position, rayThrough(view, at.x, at.y));
}

/** Where a copy of a piece is met along a ray, and the normal there in the body's own measures. */
interface CopyMet extends Met {
	copy: number;
}

/** The first copy of a piece that a ray meets before a distance. */
function copyMet(piece: Piece, doc: Set, from: Vec3, along: Vec3, before: number): CopyMet | null {
	const { bounds, mesh } = geometryOf(piece);
	let met: CopyMet | null = null;
	for (const [copy, m] of pieceTransforms(piece, doc).entries()) {
		const nearest = met?.t ?? before;
		if (!passes(boundsOf(m, bounds), from, along, nearest)) continue;
		const own = meetTriangle(mesh, ...into(m, from, along));
		if (own && own.t < nearest) met = { ...own, copy };
	}
	return met;
}

const onRay = (from: Vec3, along: Vec3, t: number): Vec3 => add(from, scale(along, t));

/** The first piece that a ray meets, where, and how. */
function pieceMet(doc: Set, from: Vec3, along: Vec3): { piece: Piece; place: Vec3; met: CopyMet } | null {
	let first: { piece: Piece; met: CopyMet } | null = null;
	let nearest = Infinity;
	for (const piece of doc.pieces) {
		const met = isSeen(piece) ? copyMet(piece, doc, from, along, nearest) : null;
		if (met) [first, nearest] = [{ piece, met }, met.t];
	}
	return first && { ...first, place: onRay(from, along, nearest) };
}

/** A place of a surface and its normal there, of length 1, towards who looks. */
export interface Faced {
	at: Vec3;
	normal: Vec3;
}

/** A piece where a ray has met it: in the world, and in its own metres from its foot. */
function facedBoth(piece: Piece, doc: Set, from: Vec3, along: Vec3, met: CopyMet): { world: Faced; own: Faced } {
	const frame = pieceFrames(piece, doc)[met.copy];
	const back = invert(frame);
	const world = onRay(from, along, met.t);
	const own = transformPoint(back, world);
	const out = normalize(met.normal.map((v, c) => v / piece.size[c]) as unknown as Vec3);
	const normal = dot(out, sub(transformPoint(back, from), own)) < 0 ? scale(out, -1) : out;
	const turned = normalize(sub(transformPoint(frame, normal), transformPoint(frame, [0, 0, 0])));
	return { world: { at: world, normal: turned }, own: { at: own, normal } };
}

/** Where a piece, of itself, is met under a place of the frame: in the world, and in its own metres from its foot. */
export function placeOn(piece: Piece, view: FrameOfView, doc: Set, at: Point): { world: Faced; own: Faced } | null {
	const [from, along] = [view.position, rayThrough(view, at.x, at.y)];
	const met = copyMet(piece, doc, from, along, Infinity);
	return met && facedBoth(piece, doc, from, along, met);
}

/** Metres beside a place of the ground by which it is told how it slopes. */
const SLOPE_M = 0.25;

/** What is nearest under a place of the frame, of pieces and the ground, in the world. */
export function placeUnder(view: FrameOfView, doc: Set, at: Point): Faced | null {
	const [from, along] = [view.position, rayThrough(view, at.x, at.y)];
	const ground = doc.ground.out ? null : groundUnder(view, doc.ground, at);
	const first = pieceMet(doc, from, along);
	const far = (p: Vec3) => length(sub(p, from));
	if (first && !(ground && far(ground) < far(first.place)))
		return facedBoth(first.piece, doc, from, along, first.met).world;
	if (!ground) return null;
	const [x, , z] = ground;
	const rise = (dx: number, dz: number) =>
		groundHeight(doc.ground, x - dx, z - dz) - groundHeight(doc.ground, x + dx, z + dz);
	return { at: ground, normal: normalize([rise(SLOPE_M, 0), 2 * SLOPE_M, rise(0, SLOPE_M)]) };
}

/** A ray in a body's own measures; lengths along it stay. */
function into(m: Mat34, from: Vec3, along: Vec3): [Vec3, Vec3] {
	const back = invert(m);
	const a = transformPoint(back, from);
	const b = transformPoint(back, [from[0] + along[0], from[1] + along[1], from[2] + along[2]]);
	return [a, sub(b, a)];
}

/** Where a new thing stands under a place of the frame. */
export interface Spot {
	stands: Stands;
	/** In the world. */
	foot: Vec3;
	/** The piece that it stands on. */
	on: Piece | null;
}

/** A side is no place to stand: what is met lies so far below the top there, metres. */
const SIDE_M = 0.02;

/**
 * Where a thing that is set under a place of the frame stands: on the piece that is met there, before the side of one, or
 * on the ground. Null in the air.
 */
export function spotUnder(view: FrameOfView, doc: Set, at: Point): Spot | null {
	const ground = groundUnder(view, doc.ground, at);
	const met = pieceUnder(view, doc, at);
	const fromLens = (p: Vec3) => length(sub(p, view.position));
	if (!met || (ground && fromLens(ground) < fromLens(met.place)))
		return ground && { stands: "ground", foot: ground, on: null };
	const { piece, place } = met;
	const top = topOf(piece, place[0], place[2], doc);
	if (place[1] > top - SIDE_M) return { stands: { on: piece.id }, foot: [place[0], top, place[2]], on: piece };
	// Before a wall: on the ground straight below where it is met.
	return { stands: "ground", foot: [place[0], groundHeight(doc.ground, place[0], place[2]), place[2]], on: null };
}

/** Where a thing that is set on a place of the plan stands: on the highest piece there, or on the ground. */
export function spotFromAbove(doc: Set, x: number, z: number): Spot {
	const ground = groundHeight(doc.ground, x, z);
	const met = pieceMet(doc, [x, FAR_UP, z], [0, -1, 0]);
	if (!met || met.place[1] <= ground) return { stands: "ground", foot: [x, ground, z], on: null };
	return { stands: { on: met.piece.id }, foot: met.place, on: met.piece };
}
