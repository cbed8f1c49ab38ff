/** Where the copies of a piece stand in the world, and what of the ground they stand over. */
import type { Ground, Piece } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { alongHeading } from "../ground/walk.ts";
import { cameraAxes } from "../maths/axes.ts";
import { atan2, cos, DEG, sin } from "../maths/functions.ts";
import { invert, type Mat34, transformPoint, type Vec3 } from "../maths/vec.ts";
import { type Copy, copiesOf } from "./copies.ts";
import type { Geometry } from "./geometry.ts";
import { convexOutline } from "./hull.ts";
import { meetMesh } from "./meetMesh.ts";
import { geometryOf } from "./shapes.ts";

/** A place so many metres right of a piece's foot and away from it, in the world (x and z). */
export function beside(
	{ position, headingDeg }: Pick<Piece, "position" | "headingDeg">,
	right: number,
	away: number,
): [number, number] {
	const [x, z] = alongHeading(headingDeg, right, away);
	return [position[0] + x, position[2] + z];
}

/** Copies of a piece, and how far beside it they stand in the world (x and z, metres). */
export function copiesInWorld({
	repeat,
	headingDeg,
}: Pick<Piece, "repeat" | "headingDeg">): (Copy & { x: number; z: number })[] {
	const [c, s] = [cos(headingDeg * DEG), sin(headingDeg * DEG)];
	return copiesOf(repeat).map((copy) => ({
		...copy,
		x: c * copy.right + s * copy.away,
		z: s * copy.right - c * copy.away,
	}));
}

/** What pieces stand in: the ground, and the pieces that others may stand on. */
export interface Standing {
	ground: Ground;
	pieces?: readonly Piece[];
}

/** Pieces that stand on each other at most. */
const MOST_STACKED = 32;
const NONE: readonly Piece[] = [];

const named = new WeakMap<readonly Piece[], Map<string, Piece>>();

function pieceNamed(pieces: readonly Piece[], id: string): Piece | undefined {
	let all = named.get(pieces);
	if (!all) {
		all = new Map(pieces.map((p) => [p.id, p]));
		named.set(pieces, all);
	}
	return all.get(id);
}

/** What a piece stands on, and what that stands on, and so forth; none for one on the ground or at level zero. */
export function supportsOf(piece: Piece, pieces: readonly Piece[] = NONE): readonly Piece[] {
	if (typeof piece.stands === "string") return NONE;
	const out: Piece[] = [];
	for (let at: Piece | undefined = piece; at && out.length < MOST_STACKED; ) {
		at = typeof at.stands === "string" ? undefined : pieceNamed(pieces, at.stands.on);
		if (at) out.push(at);
	}
	return out;
}

/** Height in the world, metres, of what a piece stands on under a place. */
export function footing(piece: Piece, x: number, z: number, { ground, pieces }: Standing): number {
	if (piece.stands === "level") return 0;
	const [support, ...below] = supportsOf(piece, pieces);
	if (!support) return groundHeight(ground, x, z);
	return topOf(support, x, z, { ground, pieces: below });
}

/** The highest of a piece over a place; beside it, its highest of all. */
export function topOf(piece: Piece, x: number, z: number, place: Standing): number {
	const geometry = geometryOf(piece);
	let top = Number.NEGATIVE_INFINITY;
	let highest = Number.NEGATIVE_INFINITY;
	for (const m of pieceTransforms(piece, place)) {
		for (const p of placedHulls(geometry, m).flat()) highest = Math.max(highest, p[1]);
		const back = invert(m);
		const hit = meetMesh(geometry.mesh, transformPoint(back, [x, FAR_UP, z]), [-back[1], -back[5], -back[9]]);
		if (hit) top = Math.max(top, FAR_UP - hit);
	}
	return top > Number.NEGATIVE_INFINITY ? top : highest;
}

/** Height from which is looked down, metres: above all that stands, and small enough for exact numbers. */
export const FAR_UP = 10_000;

/** How far up a leaned body is moved to rest with its lowest place on what it stands on. */
function liftOf(piece: Piece, { up: u, right: r, forward: f }: ReturnType<typeof cameraAxes>): number {
	if (!piece.rests || (piece.pitchDeg === 0 && piece.rollDeg === 0)) return 0;
	const [w, h, d] = piece.size;
	const { positions } = geometryOf(piece).mesh;
	let lowest = Infinity;
	for (let i = 0; i < positions.length; i += 3)
		lowest = Math.min(lowest, r[1] * w * positions[i] + u[1] * h * positions[i + 1] - f[1] * d * positions[i + 2]);
	return -lowest;
}

/**
 * From a piece's body into the world, one matrix for each of its copies: its size, then its roll, pitch and heading, then
 * its foot, which stands over the ground there, over a piece or over level zero. One that a mirror shows has its right on
 * its left: its determinant is below 0.
 */
export const pieceTransforms = (piece: Piece, place: Standing): Mat34[] => placed(piece, place, piece.size);

/** The same without its size: the frames, in metres, of what a piece's copies carry. */
export const pieceFrames = (piece: Piece, place: Standing): Mat34[] => placed(piece, place, [1, 1, 1]);

/** The heading by which the front of what stands at a place looks at the lens, degrees. */
export const headingToLens = ([x, , z]: readonly number[], lens: readonly number[]): number =>
	atan2(x - lens[0], lens[2] - z) / DEG;

/** A piece at a moment each of whose copies turns to the lens where it stands; its heading still says how they stand beside each other. */
export interface Turning extends Piece {
	lens: readonly number[];
}

function placed(piece: Piece | Turning, place: Standing, [w, h, d]: Vec3): Mat34[] {
	const { headingDeg, pitchDeg, rollDeg } = piece;
	const lens = "lens" in piece ? piece.lens : null;
	const axes = cameraAxes(headingDeg, pitchDeg, rollDeg);
	const lift = liftOf(piece, axes);
	return copiesInWorld(piece).map((copy) => {
		const x = piece.position[0] + copy.x;
		const z = piece.position[2] + copy.z;
		const heading = lens ? headingToLens([x, 0, z], lens) : headingDeg + copy.turnDeg;
		const { right: r, up: u, forward: f } = heading === headingDeg ? axes : cameraAxes(heading, pitchDeg, rollDeg);
		const [cw, ch, cd] = copy.size === 1 ? [w, h, d] : [w * copy.size, h * copy.size, d * copy.size];
		const y = piece.position[1] + copy.up + footing(piece, x, z, place) + lift * copy.size;
		const across = copy.mirrored ? -cw : cw;
		return [
			r[0] * across,
			u[0] * ch,
			-f[0] * cd,
			x,
			r[1] * across,
			u[1] * ch,
			-f[1] * cd,
			y,
			r[2] * across,
			u[2] * ch,
			-f[2] * cd,
			z,
		];
	});
}

/** Outermost places of one body that is placed by a matrix. */
export const placedHulls = (geometry: Geometry, m: Mat34): Vec3[][] =>
	geometry.hulls.map((hull) => hull.map((p) => transformPoint(m, p)));

/** Outermost places in the world of all copies of a piece. */
export const outermost = (piece: Piece, place: Standing): Vec3[] => {
	const geometry = geometryOf(piece);
	return pieceTransforms(piece, place).flatMap((m) => placedHulls(geometry, m).flat());
};

/** The middle in the world of the box about a piece's first copy. */
export function placedMiddle(piece: Piece, place: Standing): Vec3 {
	const [m] = pieceTransforms({ ...piece, repeat: null }, place);
	const all = placedHulls(geometryOf(piece), m).flat();
	const mid = (c: 0 | 1 | 2) => (Math.min(...all.map((p) => p[c])) + Math.max(...all.map((p) => p[c]))) / 2;
	return [mid(0), mid(1), mid(2)];
}

/**
 * What a copy of a piece, the first unless told, covers seen from above: the convex outline of each of its parts, in metres
 * right (x) and towards (z) beside its foot.
 */
export function outlinesFromAbove(piece: Piece, copy?: Copy): [number, number][][] {
	const { turnDeg = 0, size: by = 1, mirrored = false } = copy ?? {};
	const [w, h, d] = piece.size;
	const alone: Piece = {
		...piece,
		position: [0, 0, 0],
		stands: "level",
		repeat: null,
		headingDeg: piece.headingDeg + turnDeg,
	};
	const [m] = placed(alone, { ground: NO_GROUND }, [(mirrored ? -w : w) * by, h * by, d * by]);
	return placedHulls(geometryOf(piece), m).map((hull) => convexOutline(hull.map(([x, , z]) => [x, z])));
}

const NO_GROUND: Ground = { preset: "plain", seed: 0, heightM: 0 };
