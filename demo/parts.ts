/** What the demo's shots are put together with: pieces from place to place, right, up and towards the lens, in metres. */
import { newPiece } from "../src/core/doc/defaults.ts";
import type { Edit } from "../src/core/doc/edits.ts";
import {
	corners,
	type Laid,
	type LaidOver,
	type LaidWhere,
	type Piece,
	type Shape,
	type ShapeKind,
	type Surface,
} from "../src/core/doc/schema.ts";
import { millimetres } from "../src/core/maths/functions.ts";
import { add, cross, length, normalize, scale, sub } from "../src/core/maths/vec.ts";
import { leanOf } from "../src/core/shape/handPieces.ts";
import { drawnLinePiece } from "../src/core/shape/handPoints.ts";
import { laidAsMade } from "../src/core/surface/laying.ts";
import type { SurfaceKind } from "../src/core/surface/surfaces.ts";

export type P = [number, number, number];

/** A surface with something laid on it: in its own colour by so much, from a seed, as large and deep as it is made but for what is said. */
export const covered = (surface: Surface, of: SurfaceKind, over: Partial<Laid> = {}): Surface => ({
	...surface,
	laid: { ...laidAsMade(of), tint: 0.85, ...over },
});

/** What lies over it, where all the sentences hold. */
export const overIt = (of: SurfaceKind, where: LaidWhere[], over: Partial<LaidOver> = {}): LaidOver => ({
	...laidAsMade(of),
	share: 1,
	where,
	...over,
});

export const put = (
	id: string,
	name: string,
	kind: ShapeKind,
	position: P,
	size: P,
	surface: Surface,
	over: Partial<Piece> = {},
): Piece =>
	newPiece(id, kind, {
		name,
		position: position.map(millimetres) as P,
		size: size.map(millimetres) as P,
		surface,
		stands: "level",
		...over,
	});
export const shaped = (kind: ShapeKind, over: object): Shape => ({ ...newPiece("", kind).shape, ...over }) as Shape;

/** A bar from one place to another. */
export function bar(
	id: string,
	name: string,
	a: P,
	b: P,
	thick: number,
	surface: Surface,
	kind: ShapeKind = "cylinder",
): Piece {
	const way = sub(b, a);
	const { pitchDeg, rollDeg } = leanOf(0, way);
	return put(id, name, kind, a, [thick, length(way), thick], surface, {
		pitchDeg: millimetres(pitchDeg),
		rollDeg: millimetres(rollDeg),
	});
}

/** A section led from place to place, soft between its ends. */
export function led(
	id: string,
	name: string,
	places: P[],
	across: number,
	tall: number,
	section: "square" | "round",
	surface: Surface,
): Piece {
	const like = newPiece("", "rail", { shape: shaped("rail", { section, acrossM: across, tallM: tall }), surface });
	const [piece] = drawnLinePiece(
		id,
		"rail",
		{
			points: places.map((world, i) => ({ world, soft: i > 0 && i < places.length - 1 })),
			stands: "level",
			headingDeg: 0,
			upright: false,
			heightM: 1,
			closed: false,
			footing: () => 0,
		},
		[like],
	).pieces;
	return { ...piece, name };
}

/** A lattice between two places: four legs and what crosses between them. */
export function lattice(id: string, name: string, a: P, b: P, wide: number, bays: number, surface: Surface): Piece[] {
	const way = sub(b, a);
	const along = normalize(way);
	// Across it, level; and across both.
	const u = Math.abs(along[1]) < 0.995 ? normalize(cross([0, 1, 0], along)) : ([1, 0, 0] as const);
	const w = cross(along, u);
	const at = (s: number, i: number, j: number): P => [
		...add(add(a, scale(way, s)), add(scale(u, (i * wide) / 2), scale(w, (j * wide) / 2))),
	];
	const sides = [
		[-1, -1],
		[1, -1],
		[1, 1],
		[-1, 1],
	] as const;
	const out: Piece[] = [];
	for (const [k, [i, j]] of sides.entries())
		out.push(bar(`${id}leg${k}`, name, at(0, i, j), at(1, i, j), 0.16, surface, "box"));
	for (let s = 0; s < bays; s++)
		for (const [k, [i, j]] of sides.entries()) {
			const [p, q] = sides[(k + 1) % 4];
			const [from, to] =
				s % 2 ? [at(s / bays, i, j), at((s + 1) / bays, p, q)] : [at(s / bays, p, q), at((s + 1) / bays, i, j)];
			out.push(bar(`${id}x${s}${k}`, name, from, to, 0.08, surface, "box"));
		}
	return out;
}

/** Pieces, and the group in which they are. */
export function grouped(id: string, name: string, pieces: Piece[]): Edit[] {
	return [
		{ name: "piece.add", pieces },
		{ name: "group.make", group: { id, name }, pieces: pieces.map((p) => p.id), groups: [] },
	];
}

/** A coat with a head, a hat and one arm: who stands there, by the foot, and where the hand is. */
export function figure(
	id: string,
	name: string,
	[x, y, z]: P,
	headingDeg: number,
	hand: P,
	{ cloth, skin }: { cloth: Surface; skin: Surface },
): Piece[] {
	const coat = corners<[number, number]>([0.3, 0], [0.24, 0.5], [0.2, 0.95], [0.24, 1.32], [0.08, 1.5]).map((p, i) => ({
		...p,
		soft: i > 0 && i < 4,
	}));
	return [
		put(`${id}coat`, `${name}, coat`, "turned", [x, y, z], [0.6, 1.46, 0.4], cloth, {
			headingDeg,
			shape: shaped("turned", { points: coat }),
		}),
		put(`${id}head`, `${name}, head`, "sphere", [x, y + 1.46, z], [0.21, 0.26, 0.23], skin),
		put(`${id}hat`, `${name}, hat`, "dome", [x, y + 1.62, z], [0.3, 0.14, 0.32], cloth),
		bar(`${id}arm`, `${name}, arm`, [x + 0.18, y + 1.3, z], hand, 0.1, cloth),
	];
}
