/** Openings of walls: doors and windows put in, moved along, taken out. */
import type { Edit } from "../doc/edits.ts";
import { type Piece, Shape } from "../doc/schema.ts";
import { lengthAlong, nearestAlong, placeAlong } from "../maths/curve.ts";
import { clamp, millimetres } from "../maths/functions.ts";
import type { Vec3 } from "../maths/vec.ts";
import { isLine, LineError, lineWays, ownLine } from "./handPoints.ts";
import type { Standing } from "./place.ts";

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

/** The wall's middle line in metres as it stands, right and towards; of a closed one its beginning once more. */
function middleLine(piece: WallPiece): [number, number][] {
	const line = ownLine(piece).map(([x, , z]): [number, number] => [x, z]);
	return piece.shape.closed ? [...line, line[0]] : line;
}

export const wallLength = (piece: WallPiece): number => lengthAlong(middleLine(piece), false);

function withOpenings(piece: WallPiece, openings: readonly Opening[]): Extract<Edit, { name: "piece.setShape" }> {
	const parsed = Shape.safeParse({ ...piece.shape, openings });
	if (!parsed.success) throw new LineError(parsed.error.issues[0].message);
	return { name: "piece.setShape", ids: [piece.id], shape: parsed.data };
}

/** Changes an opening, which stays within its wall. Throws {@link LineError} where it would lie over another one. */
export function setOpening(piece: WallPiece, n: number, change: Partial<Opening>) {
	const far = wallLength(piece);
	const within = (o: Opening): Opening => {
		const widthM = millimetres(Math.min(o.widthM, far));
		return { ...o, n, widthM, alongM: millimetres(clamp(o.alongM, widthM / 2, far - widthM / 2)) };
	};
	return withOpenings(
		piece,
		piece.shape.openings.map((o) => (o.n === n ? within({ ...o, ...change }) : o)),
	);
}

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
	const [x, , z] = lineWays(piece, place).back(world);
	const { openings } = piece.shape;
	const { alongM } = nearestAlong(middleLine(piece), false, [x, z]);
	const opening = openings.find((o) => o.n === n);
	if (!opening) throw new LineError("This opening is gone.");
	const half = opening.widthM / 2;
	const others = openings.filter((o) => o.n !== n);
	const before = others.filter((o) => o.alongM < opening.alongM).map((o) => o.alongM + o.widthM / 2);
	const after = others.filter((o) => o.alongM > opening.alongM).map((o) => o.alongM - o.widthM / 2);
	const least = Math.max(0, ...before) + half;
	const most = Math.min(wallLength(piece), ...after) - half;
	return setOpening(piece, n, { alongM: clamp(alongM, least, most) });
}

/** Where openings are in the world: the two ends of each at its sill, in the middle of the wall. */
export function openingPlaces(piece: WallPiece, place: Standing): { n: number; from: Vec3; to: Vec3 }[] {
	const { into } = lineWays(piece, place);
	const line = middleLine(piece);
	return piece.shape.openings.map(({ n, alongM, widthM, sillM }) => {
		const [from, to] = [-widthM / 2, widthM / 2].map((by): Vec3 => {
			const [x, z] = placeAlong(line, alongM + by).at;
			return into([x, sillM, z]);
		});
		return { n, from, to };
	});
}
