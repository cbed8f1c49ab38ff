/** A piece exchanged for another one in its place: the foot, the height and the turn stay. */
import { newPiece } from "../doc/defaults.ts";
import type { Edit } from "../doc/edits.ts";
import { measuresOf, type Piece, SHAPE_KINDS, Shape } from "../doc/schema.ts";
import { hash01 } from "../maths/hash.ts";
import { usualPiece } from "./handPieces.ts";
import { isFlat, scaledShape } from "./shapes.ts";

type Like = Pick<Piece, "shape" | "size" | "surface">;

/** What could stand in a piece's place, and what it is called. */
export interface Exchange {
	title: string;
	edit: Extract<Edit, { name: "piece.exchange" }>;
}

/** A piece with the shape and the surface of another one, as high as it is. */
export function exchangedFor({ id, size }: Piece, like: Like): Exchange["edit"] {
	const by = size[1] / like.size[1];
	const scaled = like.size.map((v) => Math.max(0.001, Math.round(v * by * 1000) / 1000)) as Piece["size"];
	scaled[1] = size[1];
	return {
		name: "piece.exchange",
		pieces: [{ id, shape: scaledShape(like.shape, by), size: scaled, surface: like.surface }],
	};
}

/** The sizes that are offered: how much wider and deeper than it is. */
const SIZES: [title: string, width: number, depth: number][] = [
	["wider", 1.35, 1],
	["narrower", 0.7, 1],
	["deeper", 1, 1.5],
	["slighter", 0.75, 0.75],
];
const SEEDS = 4;

/**
 * So many candidates for a piece's place: by other seeds where its shape has one, by other sizes, as other pieces of the
 * shot are, as other shapes. Another `turn` brings others.
 */
export function candidatesFor(piece: Piece, pieces: readonly Piece[], count: number, turn = 0): Exchange[] {
	const seeded = measuresOf(piece.shape.kind).find(([, m]) => m.of === "seed");
	const seeds = Array.from({ length: seeded ? SEEDS : 0 }, (_, k): [string, Like] => {
		const seed = 1 + Math.floor(9998 * hash01(k, turn, 31));
		const shape = Shape.parse({ ...piece.shape, [seeded?.[0] ?? ""]: seed });
		return [`seed ${seed}`, { ...piece, shape }];
	});
	const sizes = SIZES.map(([title, w, d], k): [string, Like] => {
		const by = turn === 0 ? 1 : 0.85 + 0.3 * hash01(k, turn, 7);
		const [width, height, depth] = piece.size;
		return [title, { ...piece, size: [width * w * by, height, depth * d * by] }];
	});
	const known = new Set([JSON.stringify(piece.shape)]);
	const others = pieces
		.filter((p) => {
			const shape = JSON.stringify(p.shape);
			if (p.id === piece.id || isFlat(p.shape.kind) || known.has(shape)) return false;
			known.add(shape);
			return true;
		})
		.map((p): [string, Like] => [`as ${p.name}`, p]);
	const kinds = SHAPE_KINDS.filter((k) => !isFlat(k) && k !== piece.shape.kind).map((kind): [string, Like] => [
		kind,
		{ ...newPiece("", kind), size: usualPiece("", kind).size, surface: piece.surface },
	]);
	const rolled = <T>(all: readonly T[], by: number) => all.map((_, i) => all[(i + by) % all.length]);
	const third = Math.ceil(count / 3);
	const listed = [
		...seeds,
		...sizes.slice(0, Math.max(2, third - seeds.length)),
		...rolled(others, turn * third).slice(0, third),
		...rolled(kinds, turn * third),
	];
	return listed.slice(0, count).map(([title, like]) => ({ title, edit: exchangedFor(piece, like) }));
}
