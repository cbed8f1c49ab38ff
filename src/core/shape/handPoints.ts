/** What hands do with drawn lines: points set, moved, put in, taken out, made soft or hard; openings of walls. */
import { newPiece } from "../doc/defaults.ts";
import type { Edit } from "../doc/edits.ts";
import { type LinePoint, MOST_POINTS, type Piece, Shape, type ShapeKind, type Stands } from "../doc/schema.ts";
import { cameraAxes } from "../maths/axes.ts";
import { placesAlong, stretches } from "../maths/curve.ts";
import { add, dot, invert, scale, sub, transformPoint, type Vec3 } from "../maths/vec.ts";
import type { Drawn, Fit } from "./geometry.ts";
import { nameOfNext } from "./handPieces.ts";
import { pieceTransforms, type Standing } from "./place.ts";
import { drawnOf } from "./shapes.ts";

type EditNamed<N extends Edit["name"]> = Extract<Edit, { name: N }>;

/** A shape that has a line. */
export type LineShape = Extract<Shape, { points: unknown }>;
export type LinePiece = Piece & { shape: LineShape };

export const isLine = (piece: Piece): piece is LinePiece => drawnOf(piece.shape) !== undefined;

/** What is wrong with a line, in a sentence. */
export class LineError extends Error {}

const tenths = (v: number): number => Math.round(v * 1e4) / 1e4;

const drawn = ({ shape }: LinePiece) => drawnOf(shape) as Drawn;

const UNMIRRORED = [false, false, false] as const;

/** From metres of a line as it was drawn to the body of a metre, and back. */
function bodyOf({ low, high }: Fit, mirrored: readonly boolean[] = UNMIRRORED) {
	const extent = sub(high, low).map((v) => v || 1);
	const turn = (u: number, c: number) => (mirrored[c] ? (c === 1 ? 1 - u : -u) : u);
	const origin: Vec3 = [(low[0] + high[0]) / 2, low[1], (low[2] + high[2]) / 2];
	return {
		origin,
		into: (p: Vec3) => sub(p, origin).map((v, c) => turn(v / extent[c], c)) as unknown as Vec3,
		back: (u: Vec3) => add(u.map((v, c) => turn(v, c) * extent[c]) as unknown as Vec3, origin),
	};
}

const stretched = (p: Vec3, by: Vec3): Vec3 => [p[0] * by[0], p[1] * by[1], p[2] * by[2]];

/** Between the metres of a piece's line, as it is stretched, and the world: the way there and the way back. */
export function lineWays(piece: LinePiece, place: Standing): Record<"into" | "back", (p: Vec3) => Vec3> {
	const { into, back } = bodyOf(drawn(piece).fit(piece.shape, piece.size), piece.mirrored);
	const [m] = pieceTransforms({ ...piece, repeat: null }, place);
	return { into: (p) => transformPoint(m, into(p)), back: (p) => back(transformPoint(invert(m), p)) };
}

/** A place of a piece's line as it was drawn, in its metres as it is stretched. */
const asStretched = (piece: LinePiece): ((at: readonly number[]) => Vec3) => {
	const of = drawn(piece);
	const { by } = of.fit(piece.shape, piece.size);
	return (at) => stretched(of.place(at), by);
};

/** Where the points of a piece's line are in the world. */
export function pointPlaces(piece: LinePiece, place: Standing): Vec3[] {
	const { into } = lineWays(piece, place);
	const own = asStretched(piece);
	return piece.shape.points.map((p) => into(own(p.at)));
}

/** Places of a piece's line in its own metres as it is stretched. */
export const ownLine = (piece: LinePiece): Vec3[] =>
	placesAlong(piece.shape.points, drawn(piece).closed(piece.shape)).map(asStretched(piece));

/** Places of the line itself in the world, in stretches from point to point. */
export function linePlaces(piece: LinePiece, place: Standing): Vec3[][] {
	const { into } = lineWays(piece, place);
	const own = asStretched(piece);
	return stretches(piece.shape.points, drawn(piece).closed(piece.shape)).map((s) => s.spots.map((p) => into(own(p))));
}

/** A piece with another line: every place of the line that has not moved stays where it is. Throws {@link LineError}. */
export function redrawn(piece: LinePiece, points: readonly LinePoint[]): EditNamed<"piece.redraw"> {
	const of = drawn(piece);
	const parsed = Shape.safeParse({ ...piece.shape, points });
	if (!parsed.success) throw new LineError(parsed.error.issues[0].message);
	const shape = parsed.data as LineShape;
	const before = bodyOf(of.fit(piece.shape, piece.size)).origin;
	const size = of.own(shape, piece.size[1]).map((v) => Math.max(0.001, v)) as Piece["size"];
	const [x, y, z] = sub(bodyOf(of.fit(shape, size)).origin, before).map((v, c) => (piece.mirrored?.[c] ? -v : v));
	return { name: "piece.redraw", pieces: [{ id: piece.id, shape, size, by: [x, y, -z] }] };
}

/** The points as they stand, in metres of their own: what stretched them goes into them. */
function asTheyStand(piece: LinePiece): LinePoint[] {
	const own = asStretched(piece);
	return piece.shape.points.map((p) => ({ ...p, at: drawn(piece).at(own(p.at)).map(tenths) }) as unknown as LinePoint);
}

/** Where a place of the world lies in a piece's line. */
function ownPlace(piece: LinePiece, world: Vec3, place: Standing): LinePoint["at"] {
	return drawn(piece).at(lineWays(piece, place).back(world)).map(tenths) as LinePoint["at"];
}

/** Moves a point, by its number, to a place of the world. */
export function movePoint(piece: LinePiece, n: number, world: Vec3, place: Standing): EditNamed<"piece.redraw"> {
	const at = ownPlace(piece, world, place);
	return redrawn(
		piece,
		asTheyStand(piece).map((p) => (p.n === n ? ({ ...p, at } as LinePoint) : p)),
	);
}

/** Puts a point into the line behind that of a number. */
export function insertPoint(piece: LinePiece, after: number, world: Vec3, place: Standing): EditNamed<"piece.redraw"> {
	const points = asTheyStand(piece);
	if (points.length >= MOST_POINTS) throw new LineError(`A line has at most ${MOST_POINTS} points.`);
	const i = points.findIndex((p) => p.n === after);
	const n = Math.max(...points.map((p) => p.n)) + 1;
	const point = { n, at: ownPlace(piece, world, place), ...(points[i].soft && { soft: true }) } as LinePoint;
	return redrawn(piece, [...points.slice(0, i + 1), point, ...points.slice(i + 1)]);
}

/** Takes a point out of the line. */
export function dropPoint(piece: LinePiece, n: number): EditNamed<"piece.redraw"> {
	if (piece.shape.points.length <= drawn(piece).least)
		throw new LineError(`The line needs ${drawn(piece).least === 2 ? "two" : "three"} points.`);
	return redrawn(
		piece,
		asTheyStand(piece).filter((p) => p.n !== n),
	);
}

/** Makes points soft or hard; all of them when no number is told. */
export function setSoft(piece: LinePiece, n: number | null, soft: boolean): EditNamed<"piece.redraw"> {
	const next = asTheyStand(piece).map((p) => {
		if (n !== null && p.n !== n) return p;
		const { soft: _, ...hard } = p;
		return (soft ? { ...hard, soft } : hard) as LinePoint;
	});
	return redrawn(piece, next);
}

/** A place that was set while a line is drawn. */
export interface SetPoint {
	world: Vec3;
	soft: boolean;
}

export interface NewLine {
	points: readonly SetPoint[];
	stands: Stands;
	/** The way that it faces. */
	headingDeg: number;
	/** It stands upright, facing the heading's near side, with its raised depth towards that. */
	upright: boolean;
	/** How high, or upright how deep, it is raised. */
	heightM: number;
	/** It ends where it begins. */
	closed: boolean;
	/** Height in the world of what it stands on, below a place. */
	footing: (x: number, z: number) => number;
}

/** Names of pieces of a kind start from what is there. Throws {@link LineError} in a sentence where the line is none. */
export function drawnLinePiece(
	id: string,
	kind: ShapeKind,
	line: NewLine,
	pieces: readonly Piece[],
): EditNamed<"piece.add"> {
	const like = pieces.findLast((p) => p.shape.kind === kind);
	const begun = like?.shape ?? newPiece("", kind).shape;
	const of = drawnOf(begun);
	const [first] = line.points;
	if (!of || !first) throw new LineError("A line needs two points.");
	const pitchDeg = line.upright && !of.upright ? 90 : 0;
	const axes = cameraAxes(line.headingDeg, pitchDeg, 0);
	const own = ({ world }: SetPoint): Vec3 => {
		const out = sub(world, first.world);
		return [dot(out, axes.right), dot(out, axes.up), -dot(out, axes.forward)];
	};
	const points = line.points.map((p, n) => ({ n, at: of.at(own(p)).map(tenths), ...(p.soft && { soft: true }) }));
	const fresh = { ...begun, points, ...("openings" in begun && { openings: [] }) };
	const parsed = Shape.safeParse("closed" in begun ? { ...fresh, closed: line.closed } : fresh);
	if (!parsed.success) throw new LineError(parsed.error.issues[0].message);
	const shape = parsed.data;
	const size = of.own(shape, line.heightM).map((v) => Math.max(0.001, v)) as Piece["size"];
	const { origin } = bodyOf(of.fit(shape, size));
	const away = add(add(scale(axes.right, origin[0]), scale(axes.up, origin[1])), scale(axes.forward, -origin[2]));
	const [x, y, z] = add(first.world, away);
	const piece = newPiece(id, kind, {
		name: nameOfNext(kind, pieces),
		shape,
		size,
		position: [tenths(x), tenths(y - line.footing(x, z)), tenths(z)],
		stands: line.stands,
		headingDeg: line.headingDeg,
		pitchDeg,
		...(like && { surface: like.surface }),
	});
	return { name: "piece.add", pieces: [piece] };
}
