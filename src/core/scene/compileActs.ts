/** Bodies that others are cut out of, joined to, or meet: asked of the host, kept by the key of all that they are made from. */
import { actors } from "../doc/acts.ts";
import type { Piece, ShotDocument } from "../doc/schema.ts";
import { keyOf } from "../maths/hash.ts";
import type { Mesh } from "../maths/mesh.ts";
import { composed, determinant, invert, type Mat34, type Vec3 } from "../maths/vec.ts";
import { pieceTransforms } from "../shape/place.ts";
import { bodyMadeFrom, geometryOf, makeGeometry } from "../shape/shapes.ts";
import type { Solid, Solids } from "./inputs.ts";
import { CODE, type Making, type Steps, whenMade } from "./making.ts";

/** What acts on what acts on what, at most. */
const DEEPEST = 16;

/** A mesh under a matrix; what turns it inside out turns its triangles round too. */
function moved({ positions, normals, indices }: Mesh, m: Mat34): Mesh {
	const out = { positions: new Float32Array(positions.length), normals: new Float32Array(normals.length), indices };
	const back = invert(m);
	const sign = Math.sign(determinant(m));
	for (let i = 0; i < positions.length; i += 3) {
		let square = 0;
		for (let c = 0; c < 3; c++) {
			const row = 4 * c;
			out.positions[i + c] =
				m[row] * positions[i] + m[row + 1] * positions[i + 1] + m[row + 2] * positions[i + 2] + m[row + 3];
			// Normals go by the inverse, transposed.
			const n = back[c] * normals[i] + back[4 + c] * normals[i + 1] + back[8 + c] * normals[i + 2];
			out.normals[i + c] = n;
			square += n * n;
		}
		for (let c = 0; c < 3; c++) out.normals[i + c] /= Math.sqrt(square) || 1;
	}
	if (sign < 0) out.indices = indices.map((_, i) => indices[i - (i % 3) + [0, 2, 1][i % 3]]);
	return out;
}

const scaling = ([w, h, d]: Vec3): Mat34 => [w, 0, 0, 0, 0, h, 0, 0, 0, 0, d, 0];

/** How exactly a place beside another counts, in parts of a metre: what moves together is made once. */
const EXACT = 1e5;
const rounded = (m: Mat34) => m.map((v) => Math.round(v * EXACT));

/** What a body is made from: the piece's own, and what acts on it, from its metres into the piece's. */
interface Plan {
	key: string;
	piece: Piece;
	acts: { by: Piece; plan: Plan; ways: Mat34[] }[];
}

/** What a piece's body is made from, and what acts on it, as deep as that goes. */
function planOf(piece: Piece, doc: ShotDocument, making: Making, deep: number): Plan {
	const own = actors(doc).get(piece.id) ?? [];
	const from = composed(scaling(piece.size), invert(pieceTransforms({ ...piece, repeat: null }, doc)[0]));
	const acts = (deep < DEEPEST ? own : []).flatMap((by) => {
		// Sheets have no inside.
		if (!geometryOf(by).closed || geometryOf(by).assembled) return [];
		const plan = planOf(by, doc, making, deep + 1);
		const shrink = scaling(by.size.map((v) => 1 / v) as unknown as Vec3);
		return [{ by, plan, ways: pieceTransforms(by, doc).map((m) => composed(from, composed(m, shrink))) }];
	});
	const key = keyOf(
		"solid",
		CODE,
		...bodyMadeFrom(piece),
		piece.size,
		...acts.flatMap(({ by, plan, ways }) => [by.act?.kind, by.id, plan.key, ways.map(rounded)]),
	);
	return { key, acts, piece };
}

/** The body of a plan in metres, with all that acts on it. */
function* solidOf({ piece, acts, key }: Plan, making: Making): Steps<Solid> {
	const { mesh, faces } = makeGeometry(piece, { blobs: making.blobs });
	const base: Solid = { mesh: moved(mesh, scaling(piece.size)), faces };
	if (acts.length === 0) return base;
	const done: Solids["acts"][number][] = [];
	for (const { by, plan, ways } of acts) {
		const body = yield* solidOf(plan, making);
		done.push({
			kind: by.act?.kind ?? "cut",
			of: by.id,
			bodies: ways.map((m) => ({ mesh: moved(body.mesh, m), faces: body.faces })),
		});
	}
	return yield* whenMade(making.makers.solids(key, () => ({ base, acts: done })));
}

/** A piece's body after what is done to it: the keys of its part and of that as a mirror shows it. */
export interface Acted {
	mesh: string;
	mirrored: string;
	/** Nothing is left of it. */
	empty: boolean;
}

const emptyOnes = new WeakMap<Making["cache"], Set<string>>();

/** The part of a body that something is done to; null for one that nothing is done to. */
export function* compileActed(piece: Piece, making: Making, needsMirror: boolean): Steps<Acted | null> {
	const { doc, cache } = making;
	if (!actors(doc).get(piece.id) || geometryOf(piece).assembled) return null;
	const plan = planOf(piece, doc, making, 0);
	if (plan.acts.length === 0) return null;
	const { key } = plan;
	const other = `${key} mirrored`;
	const known = emptyOnes.get(cache) ?? new Set<string>();
	emptyOnes.set(cache, known);
	if (known.has(key)) return { mesh: key, mirrored: other, empty: true };
	let body: Solid | null = null;
	if (!cache.has(key) || (needsMirror && !cache.has(other))) {
		const { mesh, faces } = yield* solidOf(plan, making);
		if (mesh.indices.length === 0) {
			known.add(key);
			return { mesh: key, mirrored: other, empty: true };
		}
		body = { mesh: moved(mesh, scaling(piece.size.map((v) => 1 / v) as unknown as Vec3)), faces };
	}
	const made = body as Solid;
	making.part("mesh", key, () => made);
	// As a mirror through its foot shows it.
	if (needsMirror) making.part("mesh", other, () => ({ ...made, mesh: moved(made.mesh, scaling([-1, 1, 1])) }));
	return { mesh: key, mirrored: other, empty: false };
}
