/** Where the copies of a piece stand in the world, and what of the ground they stand over. */
import type { Ground, Piece } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { cameraAxes } from "../lens/camera.ts";
import { cos, DEG, sin } from "../maths/functions.ts";
import { invert, type Mat34, transformPoint, type Vec3 } from "../maths/vec.ts";
import type { Geometry } from "./geometry.ts";
import { convexOutline } from "./hull.ts";
import { meetMesh } from "./meetMesh.ts";
import { geometryOf } from "./shapes.ts";

/** Offsets in the world (x and z, metres) of a piece's copies; the first is none. */
export function repeatOffsets({ repeat, headingDeg }: Pick<Piece, "repeat" | "headingDeg">): [number, number][] {
	const { count, step } = repeat ?? { count: 1, step: [0, 0] };
	const c = cos(headingDeg * DEG);
	const s = sin(headingDeg * DEG);
	return Array.from({ length: count }, (_, i) => {
		const right = step[0] * i;
		const away = step[1] * i;
		return [c * right + s * away, s * right - c * away];
	});
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
	const geometry = geometryOf(piece.shape);
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
const FAR_UP = 10_000;

/** How far up a leaned body is moved to rest with its lowest place on what it stands on. */
function liftOf(piece: Piece, { up: u, right: r, forward: f }: ReturnType<typeof cameraAxes>): number {
	if (!piece.rests || (piece.pitchDeg === 0 && piece.rollDeg === 0)) return 0;
	const [w, h, d] = piece.size;
	const { positions } = geometryOf(piece.shape).mesh;
	let lowest = Infinity;
	for (let i = 0; i < positions.length; i += 3)
		lowest = Math.min(lowest, r[1] * w * positions[i] + u[1] * h * positions[i + 1] - f[1] * d * positions[i + 2]);
	return -lowest;
}

/**
 * From a piece's body into the world, one matrix for each of its copies: its size, then its roll, pitch and heading, then
 * its foot, which stands over the ground there, over a piece or over level zero.
 */
export const pieceTransforms = (piece: Piece, place: Standing): Mat34[] => placed(piece, place, piece.size);

/** The same without its size: the frames, in metres, of what a piece's copies carry. */
export const pieceFrames = (piece: Piece, place: Standing): Mat34[] => placed(piece, place, [1, 1, 1]);

function placed(piece: Piece, place: Standing, [w, h, d]: Vec3): Mat34[] {
	const axes = cameraAxes(piece.headingDeg, piece.pitchDeg, piece.rollDeg);
	const { right: r, up: u, forward: f } = axes;
	const lift = liftOf(piece, axes);
	return repeatOffsets(piece).map(([ox, oz]) => {
		const x = piece.position[0] + ox;
		const z = piece.position[2] + oz;
		const y = piece.position[1] + footing(piece, x, z, place) + lift;
		return [r[0] * w, u[0] * h, -f[0] * d, x, r[1] * w, u[1] * h, -f[1] * d, y, r[2] * w, u[2] * h, -f[2] * d, z];
	});
}

/** Outermost places of one body that is placed by a matrix. */
export const placedHulls = (geometry: Geometry, m: Mat34): Vec3[][] =>
	geometry.hulls.map((hull) => hull.map((p) => transformPoint(m, p)));

/** Outermost places in the world of all copies of a piece. */
export const outermost = (piece: Piece, place: Standing): Vec3[] => {
	const geometry = geometryOf(piece.shape);
	return pieceTransforms(piece, place).flatMap((m) => placedHulls(geometry, m).flat());
};

/** The middle in the world of the box about a piece's first copy. */
export function placedMiddle(piece: Piece, place: Standing): Vec3 {
	const [m] = pieceTransforms({ ...piece, repeat: null }, place);
	const all = placedHulls(geometryOf(piece.shape), m).flat();
	const mid = (c: 0 | 1 | 2) => (Math.min(...all.map((p) => p[c])) + Math.max(...all.map((p) => p[c]))) / 2;
	return [mid(0), mid(1), mid(2)];
}

/**
 * What a piece's first copy covers seen from above: the convex outline of each of its parts, in metres right (x) and
 * towards (z) beside its foot.
 */
export function outlinesFromAbove(piece: Piece): [number, number][][] {
	const alone: Piece = { ...piece, position: [0, 0, 0], stands: "level", repeat: null };
	const [m] = pieceTransforms(alone, { ground: NO_GROUND });
	return placedHulls(geometryOf(piece.shape), m).map((hull) => convexOutline(hull.map(([x, , z]) => [x, z])));
}

const NO_GROUND: Ground = { preset: "plain", seed: 0, heightM: 0 };
