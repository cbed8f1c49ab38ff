/** What hands do with pieces, as named edits: the same for frame, plan, section, keys and numbers. */
import { newPiece } from "../doc/defaults.ts";
import type { Edit } from "../doc/edits.ts";
import type { FlatPoint, Piece, ShapeKind, Single, Stands } from "../doc/schema.ts";
import { alongHeading } from "../ground/walk.ts";
import { cameraAxes } from "../maths/axes.ts";
import { asin, atan2, cos, DEG, millimetres, sin, wrapDeg } from "../maths/functions.ts";
import { dot, normalize, type Vec3 } from "../maths/vec.ts";
import { withSingle } from "./copies.ts";
import { copiesInWorld } from "./place.ts";
import { geometryOf, SHAPES, scaledShape, variantOf } from "./shapes.ts";
import { middleOfFeet, turnTogether } from "./together.ts";

type EditNamed<N extends Edit["name"]> = Extract<Edit, { name: N }>;

/** Least size that a hand makes, metres. */
const LEAST_M = 0.02;
const LEAST_DRAWN_M = 0.05;

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
	return { name: "piece.turn", pieces: [{ id, headingDeg: wrapDeg(next) }] };
}

/** Degrees within which a leaned piece is set upright. */
const UPRIGHT_DEG = 1.5;

/** Pitch and roll, degrees, by which the upright of something with a heading points along a direction. */
export function leanOf(headingDeg: number, towards: Vec3): { pitchDeg: number; rollDeg: number } {
	const { right, forward } = cameraAxes(headingDeg, 0, 0);
	const n = normalize(towards);
	return {
		pitchDeg: atan2(-dot(n, forward), n[1]) / DEG,
		rollDeg: asin(Math.max(-1, Math.min(1, dot(n, right)))) / DEG,
	};
}

/** Leans a piece so that its upright points along a direction; it rests on what is under it. Its heading stays. */
export function leanPiece({ id, headingDeg }: Piece, towards: Vec3): EditNamed<"piece.turn"> {
	const { pitchDeg, rollDeg } = leanOf(headingDeg, towards);
	const whole = (lean: number) => (Math.abs(Math.round(lean)) <= UPRIGHT_DEG ? 0 : Math.round(lean));
	return { name: "piece.turn", pieces: [{ id, pitchDeg: whole(pitchDeg), rollDeg: whole(rollDeg), rests: true }] };
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
		default: {
			const axis = SIZES.indexOf(of);
			return piece.mirrored?.[axis] ? -piece.size[axis] : piece.size[axis];
		}
	}
}

/** What several pieces have in common; NaN where they differ. */
export function commonOf(pieces: readonly Piece[], of: Quantity): number {
	const [first, ...rest] = pieces.map((p) => quantityOf(p, of));
	return rest.every((v) => Math.abs(v - first) < 5e-4) ? first : Number.NaN;
}

/** Sets a measure of each piece to what `value` says of it. A size below 0 is that of a mirror. */
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
			const size: Size = [...p.size];
			const mirrored: NonNullable<Piece["mirrored"]> = [...(p.mirrored ?? [false, false, false])];
			const value = next(p);
			size[axis] = millimetres(Math.max(0.001, Math.abs(value)));
			mirrored[axis] = value < 0;
			return { id: p.id, size, ...((p.mirrored || value < 0) && { mirrored }) };
		}),
	};
}

/** Sets a measure of each piece to so much more than it is; headings turn them together about a place, and no size goes through nothing. */
export function stepQuantity(
	pieces: readonly Piece[],
	of: Quantity,
	by: number,
	about?: Vec3,
): EditNamed<"piece.move" | "piece.size" | "piece.turn"> {
	if (of === "heading") return turnTogether(pieces, by, about ?? middleOfFeet(pieces));
	const longer = (now: number) => Math.sign(now) * Math.max(0.001, Math.abs(now) + by);
	return setQuantity(pieces, of, SIZES.includes(of) ? longer : (now) => now + by);
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
	const { positions } = geometryOf(newPiece("", kind)).mesh;
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
	const { size } = usualPiece("", kind, {}, w);
	if (!SHAPES[kind].even && upM > 0.15 * across) size[1] = centimetres(upM);
	size[1] = Math.max(LEAST_DRAWN_M, size[1]);
	const level = Math.hypot(right[0], right[2]);
	const position: [number, number, number] = [
		millimetres(foot[0] + ((right[0] / level) * acrossM) / 2),
		0,
		millimetres(foot[2] + ((right[2] / level) * acrossM) / 2),
	];
	const name = nameOfNext(kind, pieces);
	const piece = newPiece(id, kind, { name, position, stands, headingDeg: heading, size, rests: true });
	return { name: "piece.add", pieces: [piece] };
}

type Size = Piece["size"];

export const nameOfNext = (kind: ShapeKind, pieces: readonly Piece[]): string =>
	`${kind[0].toUpperCase()}${kind.slice(1)} ${pieces.filter((p) => p.shape.kind === kind).length + 1}`;

/** A piece of a kind as it is by itself, of a width in metres. */
export function usualPiece(id: string, kind: ShapeKind, over: Partial<Piece> = {}, widthM = 1): Piece {
	const { tall = 1, deep = 1 } = SHAPES[kind].usual ?? {};
	return newPiece(id, kind, { size: [widthM, centimetres(widthM * tall), centimetres(widthM * deep)], ...over });
}

/** Where a hand puts a piece: its foot, what it stands on, the way it faces. */
export interface Put {
	foot: Vec3;
	stands: Stands;
	headingDeg: number;
}

/** A piece put down by a tap: as large, and with the measures of its own, as the last one of its kind. */
export function tappedPiece(
	id: string,
	kind: ShapeKind,
	{ foot, stands, headingDeg }: Put,
	pieces: readonly Piece[],
): EditNamed<"piece.add"> {
	const last = pieces.findLast((p) => p.shape.kind === kind);
	const position: Piece["position"] = [millimetres(foot[0]), 0, millimetres(foot[2])];
	const over = { name: nameOfNext(kind, pieces), position, stands, headingDeg, rests: true };
	const like = last && { size: last.size, shape: last.shape, surface: last.surface };
	return { name: "piece.add", pieces: [usualPiece(id, kind, { ...over, ...like })] };
}

/** A piece drawn from one corner of what it stands over to the other: on the ground as a sheet is, or in the plan. */
export function laidPiece(
	id: string,
	kind: ShapeKind,
	{ foot, stands, headingDeg }: Put,
	[toX, , toZ]: Vec3,
	pieces: readonly Piece[],
): EditNamed<"piece.add"> {
	const [dx, dz] = [toX - foot[0], toZ - foot[2]];
	const [w, d] = inOwn({ headingDeg }, dx, dz).map((v) => Math.max(LEAST_DRAWN_M, centimetres(Math.abs(v))));
	const h = Math.max(LEAST_DRAWN_M, usualPiece("", kind, {}, w).size[1]);
	const position: Piece["position"] = [millimetres(foot[0] + dx / 2), 0, millimetres(foot[2] + dz / 2)];
	const name = nameOfNext(kind, pieces);
	const piece = newPiece(id, kind, { name, position, stands, headingDeg, size: [w, h, d], rests: true });
	return { name: "piece.add", pieces: [piece] };
}

/** Metres east and south as metres right and away of what looks along a heading: the way there is the way back. */
const inOwn = ({ headingDeg }: Pick<Piece, "headingDeg">, dx: number, dz: number) => alongHeading(headingDeg, dx, dz);

/** Moves one copy of a repeated piece by metres to the east and south. */
export function moveCopy(piece: Piece, copy: number, dx: number, dz: number): EditNamed<"piece.setRepeat"> | null {
	const { repeat } = piece;
	if (!repeat) return null;
	const [right, up, away] = repeat.singles?.find((s) => s.copy === copy)?.by ?? [0, 0, 0];
	const [moreRight, moreAway] = inOwn(piece, dx, dz);
	const by: Vec3 = [right + moreRight, up, away + moreAway];
	const single: Single = { copy, by: by.map(millimetres) as [number, number, number] };
	return { name: "piece.setRepeat", id: piece.id, repeat: withSingle(repeat, single) };
}

/** Moves the middle of a ring by metres to the east and south; its first piece stays. */
export function moveRingCentre(piece: Piece, dx: number, dz: number): EditNamed<"piece.setRepeat"> | null {
	const { repeat } = piece;
	if (repeat?.kind !== "ring") return null;
	const [right, away] = inOwn(piece, dx, dz);
	const centre: [number, number] = [millimetres(repeat.centre[0] + right), millimetres(repeat.centre[1] + away)];
	return { name: "piece.setRepeat", id: piece.id, repeat: { ...repeat, centre } };
}

/** Another line for the copies of a piece that stand along one; null for other repeats. */
function alongLine(
	piece: Piece,
	change: (points: readonly FlatPoint[]) => FlatPoint[],
): EditNamed<"piece.setRepeat"> | null {
	const { repeat } = piece;
	if (repeat?.kind !== "along") return null;
	return { name: "piece.setRepeat", id: piece.id, repeat: { ...repeat, points: change(repeat.points) } };
}

const farther = (p: FlatPoint, right: number, away: number): FlatPoint => ({
	...p,
	at: [millimetres(p.at[0] + right), millimetres(p.at[1] + away)],
});

/** Moves a point of the line along which copies stand by metres to the east and south; the first is the piece itself. */
export const moveLinePoint = (piece: Piece, n: number, dx: number, dz: number) =>
	alongLine(piece, (points) => points.map((p, i) => (p.n === n && i > 0 ? farther(p, ...inOwn(piece, dx, dz)) : p)));

/** Puts a point into that line behind that of a number, moved by metres from the middle between the two. */
export const insertLinePoint = (piece: Piece, after: number, dx: number, dz: number) =>
	alongLine(piece, (points) => {
		const i = points.findIndex((p) => p.n === after);
		const [a, b] = [points[i], points[i + 1]];
		const n = Math.max(...points.map((p) => p.n)) + 1;
		const middle: FlatPoint = { n, at: [(a.at[0] + b.at[0]) / 2, (a.at[1] + b.at[1]) / 2], soft: true };
		return [...points.slice(0, i + 1), farther(middle, ...inOwn(piece, dx, dz)), ...points.slice(i + 1)];
	});

/** Makes a point of that line soft, or hard. */
export const turnLinePoint = (piece: Piece, n: number) =>
	alongLine(piece, (points) =>
		points.map((p) => {
			const { soft, ...hard } = p;
			return p.n === n ? (soft ? hard : { ...hard, soft: true }) : p;
		}),
	);

/** Each copy of a repeated piece as a piece of its own; the first keeps the id. */
export function setApart(piece: Piece, newId: () => string): EditNamed<"piece.setApart"> {
	const [across, up, deep] = piece.mirrored ?? [false, false, false];
	const pieces = copiesInWorld(piece).map((copy, i): Piece => {
		const [x, y, z] = piece.position;
		const shape = variantOf(scaledShape(piece.shape, copy.size), copy.variant);
		const { shared, ...rest } = piece;
		return {
			...rest,
			...(shared !== undefined && shape === piece.shape && { shared }),
			id: i === 0 ? piece.id : newId(),
			name: i === 0 ? piece.name : `${piece.name.slice(0, 72)}, ${copy.copy + 1}`,
			position: [millimetres(x + copy.x), millimetres(y + copy.up), millimetres(z + copy.z)],
			headingDeg: wrapDeg(piece.headingDeg + copy.turnDeg),
			size: piece.size.map((v) => millimetres(v * copy.size)) as Size,
			shape,
			repeat: null,
			...(copy.mirrored && { mirrored: [!across, up, deep] }),
		};
	});
	return { name: "piece.setApart", id: piece.id, pieces };
}
