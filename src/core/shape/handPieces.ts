/** What hands do with pieces, as named edits: the same for frame, plan, section, keys and numbers. */
import { newPiece } from "../doc/defaults.ts";
import type { Edit } from "../doc/edits.ts";
import type { Piece, ShapeKind, Stands } from "../doc/schema.ts";
import { cameraAxes } from "../lens/camera.ts";
import { asin, atan2, cos, DEG, sin } from "../maths/functions.ts";
import { dot, normalize, type Vec3 } from "../maths/vec.ts";
import { geometryOf } from "./shapes.ts";

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

/** Turns a piece about its foot as far as a hand goes round that from one place to another. */
export function turnPieceAlong({ id, position, headingDeg }: Piece, from: Vec3, to: Vec3): EditNamed<"piece.turn"> {
	const bearing = (p: Vec3) => atan2(p[0] - position[0], -(p[2] - position[2])) / DEG;
	const next = Math.round(headingDeg + bearing(to) - bearing(from));
	return { name: "piece.turn", pieces: [{ id, headingDeg: ((((next + 180) % 360) + 360) % 360) - 180 }] };
}

/** Degrees within which a leaned piece is set upright. */
const UPRIGHT_DEG = 1.5;

/** Leans a piece so that its upright points along a direction; it rests on what is under it. Its heading stays. */
export function leanPiece({ id, headingDeg }: Piece, towards: Vec3): EditNamed<"piece.turn"> {
	const { right, forward } = cameraAxes(headingDeg, 0, 0);
	const n = normalize(towards);
	const whole = (rad: number) => {
		const deg = Math.round(rad / DEG);
		return Math.abs(deg) <= UPRIGHT_DEG ? 0 : deg;
	};
	const rollDeg = whole(asin(Math.max(-1, Math.min(1, dot(n, right)))));
	const pitchDeg = whole(atan2(-dot(n, forward), n[1]));
	return { name: "piece.turn", pieces: [{ id, pitchDeg: pitchDeg || 0, rollDeg: rollDeg || 0, rests: true }] };
}

/** A measure of a piece that hands set in numbers. */
export type Quantity = "right" | "away" | "up" | "width" | "height" | "depth" | "heading" | "pitch" | "roll";

const SIZES: readonly Quantity[] = ["width", "height", "depth"];

export function quantityOf(piece: Piece, of: Quantity): number {
	const [x, y, z] = piece.position;
	switch (of) {
		case "right":
			return x;
		case "up":
			return y;
		case "away":
			return z === 0 ? 0 : -z;
		case "heading":
			return piece.headingDeg;
		case "pitch":
			return piece.pitchDeg;
		case "roll":
			return piece.rollDeg;
		default:
			return piece.size[SIZES.indexOf(of)];
	}
}

/** What several pieces have in common; NaN where they differ. */
export function commonOf(pieces: readonly Piece[], of: Quantity): number {
	const [first, ...rest] = pieces.map((p) => quantityOf(p, of));
	return rest.every((v) => Math.abs(v - first) < 5e-4) ? first : Number.NaN;
}

/** Sets a measure of each piece to what `value` says of it. */
export function setQuantity(
	pieces: readonly Piece[],
	of: Quantity,
	value: (now: number) => number,
): EditNamed<"piece.move" | "piece.size" | "piece.turn"> {
	const next = (p: Piece) => value(quantityOf(p, of));
	if (of === "right" || of === "up" || of === "away")
		return {
			name: "piece.move",
			pieces: pieces.map((p) => {
				const [x, y, z] = p.position;
				const v = millimetres(next(p));
				return { id: p.id, position: of === "right" ? [v, y, z] : of === "up" ? [x, v, z] : [x, y, -v] };
			}),
		};
	if (of === "heading" || of === "pitch" || of === "roll") {
		const wrap = (deg: number) => (of === "heading" || Math.abs(deg) <= 180 ? deg : deg - 360 * Math.round(deg / 360));
		return { name: "piece.turn", pieces: pieces.map((p) => ({ id: p.id, [`${of}Deg`]: wrap(next(p)) })) };
	}
	const axis = SIZES.indexOf(of);
	return {
		name: "piece.size",
		pieces: pieces.map((p) => {
			const size: [number, number, number] = [...p.size];
			size[axis] = millimetres(Math.max(0.001, next(p)));
			return { id: p.id, size };
		}),
	};
}

/** Turns pieces together by degrees, clockwise seen from above, about the middle of their feet. */
export function turnTogether(pieces: readonly Piece[], byDeg: number): EditNamed<"piece.turn"> {
	const mean = (i: 0 | 2) => pieces.reduce((sum, p) => sum + p.position[i], 0) / pieces.length;
	const [mx, mz] = [mean(0), mean(2)];
	const [c, s] = [cos(byDeg * DEG), sin(byDeg * DEG)];
	return {
		name: "piece.turn",
		pieces: pieces.map(({ id, position: [x, y, z], headingDeg }) => ({
			id,
			headingDeg: ((((headingDeg + byDeg + 180) % 360) + 360) % 360) - 180,
			position: [millimetres(mx + c * (x - mx) - s * (z - mz)), y, millimetres(mz + s * (x - mx) + c * (z - mz))],
		})),
	};
}

/** What is drawn by a drag: from a place that it stands on, so many metres to the right and upwards as the lens sees it. */
export interface Drawn {
	foot: Vec3;
	stands: Stands;
	/** The view's own right. */
	right: Vec3;
	acrossM: number;
	upM: number;
	/** The way it faces; that of the lens without. */
	headingDeg?: number;
}

/** A width that differs from a metre by less is that of a round shape's facets, not of its corners. */
const FACETS = 0.015;

/** Width that a shape of one metre has for a lens from which it is turned by degrees. */
function widthSeen(kind: ShapeKind, turnedDeg: number): number {
	const [c, s] = [cos(turnedDeg * DEG), sin(turnedDeg * DEG)];
	const { positions } = geometryOf(newPiece("", kind).shape).mesh;
	let [low, high] = [Infinity, -Infinity];
	for (let i = 0; i < positions.length; i += 3) {
		const across = positions[i] * c + positions[i + 2] * s;
		low = Math.min(low, across);
		high = Math.max(high, across);
	}
	return Math.abs(high - low - 1) < FACETS ? 1 : high - low;
}

/** A piece as a drag has drawn it: as wide as it went across and as high as it went up, at least its width where it hardly did. */
export function drawnPiece(
	id: string,
	kind: ShapeKind,
	{ foot, stands, right, acrossM, upM, headingDeg }: Drawn,
	pieces: readonly Piece[],
): EditNamed<"piece.add"> {
	const facing = Math.round(atan2(right[2], right[0]) / DEG);
	const heading = headingDeg ?? facing;
	const across = Math.abs(acrossM);
	// What is turned to the lens by a corner looks wider than its sides.
	const w = Math.max(LEAST_DRAWN_M, centimetres(across / widthSeen(kind, facing - heading)));
	const h = Math.max(LEAST_DRAWN_M, centimetres(upM > 0.15 * across && kind !== "sphere" ? upM : w));
	const level = Math.hypot(right[0], right[2]);
	const position: [number, number, number] = [
		millimetres(foot[0] + ((right[0] / level) * acrossM) / 2),
		0,
		millimetres(foot[2] + ((right[2] / level) * acrossM) / 2),
	];
	const count = pieces.filter((p) => p.shape.kind === kind).length + 1;
	const name = `${kind[0].toUpperCase()}${kind.slice(1)} ${count}`;
	const piece = newPiece(id, kind, { name, position, stands, headingDeg: heading, size: [w, h, w], rests: true });
	return { name: "piece.add", pieces: [piece] };
}
