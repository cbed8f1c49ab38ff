/** Openings of walls: doors and windows put in, moved along, taken out. */
import type { Edit } from "../doc/edits.ts";
import { type Piece, Shape } from "../doc/schema.ts";
import { lengthAlong, nearestAlong, placesAlong } from "../maths/curve.ts";
import { invert, transformPoint, type Vec3 } from "../maths/vec.ts";
import { isLine, LineError } from "./handPoints.ts";
import { pieceTransforms, type Standing } from "./place.ts";
import { drawnOf } from "./shapes.ts";

type Wall = Extract<Shape, { kind: "wall" }>;
export type WallPiece = Piece & { shape: Wall };
export type Opening = Wall["openings"][number];

export const isWall = (piece: Piece): piece is WallPiece => isLine(piece) && piece.shape.kind === "wall";

/** What openings begin as. */
export const OPENINGS = {
	door: { widthM: 1, sillM: 0, tallM: 2.1, head: "straight" },
	window: { widthM: 1.2, sillM: 0.9, tallM: 1.3, head: "straight" },
	arch: { widthM: 2.4, sillM: 0, tallM: 2.8, head: "round" },
} as const satisfies Record<string, Omit<Opening, "n" | "alongM">>;

const millimetres = (v: number): number => Math.round(v * 1000) / 1000;

/** The wall's middle line in metres as it stands: right and away. */
function middleLine({ shape, size }: WallPiece): [number, number][] {
	const { by } = (drawnOf(shape) as NonNullable<ReturnType<typeof drawnOf>>).fit(shape, size);
	return placesAlong(shape.points, shape.closed).map(([x, y]) => [x * by[0], y * by[2]]);
}

export const wallLength = (piece: WallPiece): number => lengthAlong(middleLine(piece), piece.shape.closed);

function withOpenings(piece: WallPiece, openings: readonly Opening[]): Extract<Edit, { name: "piece.setShape" }> {
	const parsed = Shape.safeParse({ ...piece.shape, openings });
	if (!parsed.success) throw new LineError(parsed.error.issues[0].message);
	return { name: "piece.setShape", ids: [piece.id], shape: parsed.data };
}

/** Changes an opening. Throws {@link LineError} where it would lie over another one. */
export const setOpening = (piece: WallPiece, n: number, change: Partial<Opening>) =>
	withOpenings(
		piece,
		piece.shape.openings.map((o) => (o.n === n ? { ...o, ...change, n } : o)),
	);

export const dropOpening = (piece: WallPiece, n: number) =>
	withOpenings(
		piece,
		piece.shape.openings.filter((o) => o.n !== n),
	);

/** Puts an opening into the middle of the longest stretch of wall that has none. */
export function addOpening(piece: WallPiece, kind: keyof typeof OPENINGS) {
	const { openings } = piece.shape;
	const far = wallLength(piece);
	const edges = [...openings]
		.sort((a, b) => a.alongM - b.alongM)
		.flatMap((o) => [o.alongM - o.widthM / 2, o.alongM + o.widthM / 2]);
	const all = [0, ...edges, far];
	let [from, free] = [0, 0];
	for (let i = 0; i + 1 < all.length; i += 2)
		if (all[i + 1] - all[i] > free) [from, free] = [all[i], all[i + 1] - all[i]];
	const [, height] = piece.size;
	const usual = OPENINGS[kind];
	const widthM = millimetres(Math.min(usual.widthM, free * 0.8));
	if (widthM < 0.05) throw new LineError("The wall has no room for another opening.");
	const tallM = millimetres(Math.min(usual.tallM, height * 0.8));
	const sillM = millimetres(Math.min(usual.sillM, Math.max(0, height * 0.9 - tallM)));
	const n = Math.max(-1, ...openings.map((o) => o.n)) + 1;
	return withOpenings(piece, [
		...openings,
		{ ...usual, n, alongM: millimetres(from + free / 2), widthM, tallM, sillM },
	]);
}

/** Moves an opening along the wall to where a place of the world is nearest to it; its neighbours stop it. */
export function slideOpening(piece: WallPiece, n: number, world: Vec3, place: Standing) {
	const { shape, size } = piece;
	const of = drawnOf(shape) as NonNullable<ReturnType<typeof drawnOf>>;
	const { low, high } = of.fit(shape, size);
	const [m] = pieceTransforms({ ...piece, repeat: null }, place);
	const [x, , z] = transformPoint(invert(m), world);
	const own: [number, number] = [
		(piece.mirrored?.[0] ? -x : x) * (high[0] - low[0]) + (low[0] + high[0]) / 2,
		-((piece.mirrored?.[2] ? -z : z) * (high[2] - low[2]) + (low[2] + high[2]) / 2),
	];
	const line = middleLine(piece);
	const { alongM } = nearestAlong(line, shape.closed, own);
	const opening = shape.openings.find((o) => o.n === n);
	if (!opening) throw new LineError("This opening is gone.");
	const half = opening.widthM / 2;
	const others = shape.openings.filter((o) => o.n !== n);
	const before = others.filter((o) => o.alongM < opening.alongM).map((o) => o.alongM + o.widthM / 2);
	const after = others.filter((o) => o.alongM > opening.alongM).map((o) => o.alongM - o.widthM / 2);
	const least = Math.max(0, ...before) + half;
	const most = Math.min(lengthAlong(line, shape.closed), ...after) - half;
	return setOpening(piece, n, { alongM: millimetres(Math.max(least, Math.min(most, alongM))) });
}

/** Where openings are in the world: the two ends of each at its sill, in the middle of the wall. */
export function openingPlaces(piece: WallPiece, place: Standing): { n: number; from: Vec3; to: Vec3 }[] {
	const { shape, size } = piece;
	const of = drawnOf(shape) as NonNullable<ReturnType<typeof drawnOf>>;
	const { low, high } = of.fit(shape, size);
	const [m] = pieceTransforms({ ...piece, repeat: null }, place);
	const line = middleLine(piece);
	const along = (far: number): [number, number] => {
		let gone = 0;
		for (let i = 0; i < (shape.closed ? line.length : line.length - 1); i++) {
			const [a, b] = [line[i], line[(i + 1) % line.length]];
			const l = Math.hypot(b[0] - a[0], b[1] - a[1]);
			if (gone + l >= far)
				return [a[0] + ((b[0] - a[0]) * (far - gone)) / l, a[1] + ((b[1] - a[1]) * (far - gone)) / l];
			gone += l;
		}
		return line[line.length - 1];
	};
	return shape.openings.map(({ n, alongM, widthM, sillM }) => {
		const [from, to] = [-widthM / 2, widthM / 2].map((by): Vec3 => {
			const [x, y] = along(Math.max(0, alongM + by));
			const u = (x - (low[0] + high[0]) / 2) / (high[0] - low[0]);
			const w = (-y - (low[2] + high[2]) / 2) / (high[2] - low[2]);
			return transformPoint(m, [piece.mirrored?.[0] ? -u : u, sillM / size[1], piece.mirrored?.[2] ? -w : w]);
		});
		return { n, from, to };
	});
}
