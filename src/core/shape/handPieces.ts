/** What hands do with pieces, as named edits: the same for frame, plan, section, keys and numbers. */
import { newPiece } from "../doc/defaults.ts";
import type { Edit } from "../doc/edits.ts";
import type { Piece, ShapeKind } from "../doc/schema.ts";
import { atan2, DEG } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";

type EditNamed<N extends Edit["name"]> = Extract<Edit, { name: N }>;

/** Least size that a hand makes, metres. */
const LEAST_M = 0.02;
const LEAST_DRAWN_M = 0.05;

const millimetres = (v: number): number => Math.round(v * 1000) / 1000;
const centimetres = (v: number): number => Math.round(v * 100) / 100;

/** Slides pieces over the ground by metres to the east and south (x and z). */
export const slidePieces = (pieces: readonly Piece[], dx: number, dz: number): EditNamed<"piece.move"> => ({
	name: "piece.move",
	pieces: pieces.map(({ id, position: [x, y, z] }) => ({
		id,
		position: [millimetres(x + dx), y, millimetres(z + dz)],
	})),
});

/** Lifts pieces by metres. */
export const liftPieces = (pieces: readonly Piece[], dy: number): EditNamed<"piece.move"> => ({
	name: "piece.move",
	pieces: pieces.map(({ id, position: [x, y, z] }) => ({ id, position: [x, millimetres(y + dy), z] })),
});

/** Makes one of a piece's sizes (width, height, depth) larger by metres. */
export function growPiece({ id, size }: Piece, axis: 0 | 1 | 2, byM: number): EditNamed<"piece.size"> {
	const next: [number, number, number] = [...size];
	next[axis] = centimetres(Math.max(LEAST_M, size[axis] + byM));
	return { name: "piece.size", pieces: [{ id, size: next }] };
}

/** Turns a piece so that its away side looks towards a place. */
export const turnPieceTowards = ({ id, position }: Piece, to: Vec3): EditNamed<"piece.turn"> => ({
	name: "piece.turn",
	pieces: [{ id, headingDeg: Math.round(atan2(to[0] - position[0], -(to[2] - position[2])) / DEG) }],
});

/** What is drawn by a drag over the ground: from a place, so many metres to the right and upwards as the lens sees it. */
export interface Drawn {
	foot: Vec3;
	/** The view's own right. */
	right: Vec3;
	acrossM: number;
	upM: number;
}

/** A piece as a drag has drawn it: as wide as it went across and as high as it went up, at least its width where it hardly did. */
export function drawnPiece(
	id: string,
	kind: ShapeKind,
	{ foot, right, acrossM, upM }: Drawn,
	pieces: readonly Piece[],
): EditNamed<"piece.add"> {
	const w = Math.max(LEAST_DRAWN_M, centimetres(Math.abs(acrossM)));
	const h = Math.max(LEAST_DRAWN_M, centimetres(upM > 0.15 * w && kind !== "sphere" ? upM : w));
	const level = Math.hypot(right[0], right[2]);
	const position: [number, number, number] = [
		millimetres(foot[0] + ((right[0] / level) * acrossM) / 2),
		0,
		millimetres(foot[2] + ((right[2] / level) * acrossM) / 2),
	];
	const headingDeg = Math.round(atan2(right[2], right[0]) / DEG);
	const count = pieces.filter((p) => p.shape.kind === kind).length + 1;
	const name = `${kind[0].toUpperCase()}${kind.slice(1)} ${count}`;
	return { name: "piece.add", pieces: [newPiece(id, kind, { name, position, headingDeg, size: [w, h, w] })] };
}
