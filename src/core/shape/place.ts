/** Where the copies of a piece stand in the world, and what of the ground they stand over. */
import type { Ground, Piece } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { cameraAxes } from "../lens/camera.ts";
import { cos, DEG, sin } from "../maths/functions.ts";
import { type Mat34, transformPoint, type Vec3 } from "../maths/vec.ts";
import type { Geometry } from "./geometry.ts";
import { convexOutline } from "./hull.ts";
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

/**
 * From a piece's body into the world, one matrix for each of its copies: its size, then its roll, pitch and heading, then
 * its foot, which stands over the ground there or over level zero.
 */
export function pieceTransforms(piece: Piece, { ground }: { ground: Ground }): Mat34[] {
	const { right: r, up: u, forward: f } = cameraAxes(piece.headingDeg, piece.pitchDeg, piece.rollDeg);
	const [w, h, d] = piece.size;
	return repeatOffsets(piece).map(([ox, oz]) => {
		const x = piece.position[0] + ox;
		const z = piece.position[2] + oz;
		const y = piece.position[1] + (piece.stands === "ground" ? groundHeight(ground, x, z) : 0);
		return [r[0] * w, u[0] * h, -f[0] * d, x, r[1] * w, u[1] * h, -f[1] * d, y, r[2] * w, u[2] * h, -f[2] * d, z];
	});
}

/** Outermost places of one body that is placed by a matrix. */
export const placedHulls = (geometry: Geometry, m: Mat34): Vec3[][] =>
	geometry.hulls.map((hull) => hull.map((p) => transformPoint(m, p)));

/** Outermost places in the world of all copies of a piece. */
export const outermost = (piece: Piece, doc: { ground: Ground }): Vec3[] => {
	const geometry = geometryOf(piece.shape);
	return pieceTransforms(piece, doc).flatMap((m) => placedHulls(geometry, m).flat());
};

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
