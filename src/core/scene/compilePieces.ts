/** Pieces of a scene: their bodies, placed, with what they are made of. */
import { isSeen } from "../doc/acts.ts";
import type { Ground, Piece, ShotDocument, Surface } from "../doc/schema.ts";
import { blackbody } from "../light/blackbody.ts";
import type { SceneLight } from "../light/lamps.ts";
import { GLOW_LAYER } from "../light/layers.ts";
import { log } from "../maths/functions.ts";
import { keyOf } from "../maths/hash.ts";
import { determinant, type Mat34, type Vec3 } from "../maths/vec.ts";
import { pieceTransforms, type Standing, supportsOf } from "../shape/place.ts";
import { type Body, bodyMadeFrom, makeGeometry } from "../shape/shapes.ts";
import { compileActed } from "./compileActs.ts";
import { FIRST_PIECE } from "./ids.ts";
import { CODE, type Making, type Steps } from "./making.ts";
import type { Material } from "./scene.ts";

/** What all glowing pieces have in common as lights; their draw tells their shape. */
const BODY: Pick<SceneLight, "layer" | "shape" | "axis" | "right" | "up" | "half" | "cosInner" | "cosOuter"> = {
	layer: GLOW_LAYER,
	shape: "body",
	axis: [0, 1, 0],
	right: [1, 0, 0],
	up: [0, 1, 0],
	half: [0, 0],
	cosInner: 1,
	cosOuter: -1,
};

function materialOf(s: Surface, glow: Vec3 | null): Material {
	const { colour, roughness, metal, coat, coatRoughness, glass } = s;
	const plain = { colour, roughness, metal, translucency: 0, coat, coatRoughness, ...(glow && { glow }) };
	if (!glass) return plain;
	const tint = colour.map((c) => (glass.pane ? c : -log(Math.max(1e-4, c)) / glass.depthM)) as unknown as Vec3;
	return { ...plain, glass: { pane: glass.pane, index: glass.index, tint } };
}

/** What of a piece depends on nothing but itself and what it stands on: of thousands, an edit changes one. */
interface Made {
	ground: Ground;
	/** What it stands on, and what that stands on. */
	under: readonly Piece[];
	/** The bodies of its copies and where these are. */
	copies: readonly { mesh: string; body: Body; transform: Mat34 }[];
	material: Material;
	/** cd/m², null when it does not glow. */
	glow: Vec3 | null;
}

const made = new WeakMap<Piece, Made>();

function makePiece(piece: Piece, { ground, pieces }: Standing): Made {
	const known = made.get(piece);
	const under = supportsOf(piece, pieces);
	if (known?.ground === ground && under.length === known.under.length && under.every((p, i) => p === known.under[i]))
		return known;
	const { glow: shines } = piece.surface;
	const glow =
		shines && shines.nits > 0 ? (blackbody(shines.kelvin).map((v) => v * shines.nits) as unknown as Vec3) : null;
	const now: Made = {
		ground,
		under,
		copies: copiesMade(piece, { ground, pieces: under }),
		material: materialOf(piece.surface, glow),
		glow,
	};
	made.set(piece, now);
	return now;
}

/**
 * A copy that a mirror shows has a body of its own, so that no picture has to do with bodies that are inside out: what turns
 * its right to its left goes from the matrix into the body.
 */
function copiesMade(piece: Piece, place: Standing): Made["copies"] {
	const keyed = (body: Body) => ({ body, mesh: keyOf("shape", CODE, ...bodyMadeFrom(body)) });
	const own = keyed(piece);
	const [across, up, deep] = piece.mirrored ?? [false, false, false];
	let other: typeof own | null = null;
	return pieceTransforms(piece, place).map((transform) => {
		if (determinant(transform) > 0) return { ...own, transform };
		other ??= keyed({ ...piece, mirrored: [!across, up, deep] });
		return { ...other, transform: transform.map((v, k) => (k % 4 === 0 ? -v : v)) };
	});
}

/** Where a piece's copies are when the shutter opens and when it closes; null when they have not moved. */
function endsOf(
	before: Piece,
	opening: ShotDocument,
	after: Piece,
	closing: ShotDocument,
): { opening: Mat34[]; closing: Mat34[] } | null {
	if (before === after && supportsOf(after, closing.pieces).every((p) => opening.pieces.includes(p))) return null;
	const at = (piece: Piece, doc: ShotDocument) => copiesMade(piece, doc).map((c) => c.transform);
	const ends = { opening: at(before, opening), closing: at(after, closing) };
	const still = ends.opening.every((m, copy) => m.every((v, k) => v === ends.closing[copy][k]));
	return still || ends.opening.length !== ends.closing.length ? null : ends;
}

export function* compilePieces(making: Making): Steps<void> {
	const { doc, opening, closing, draws, lights, blobs } = making;
	for (const [i, piece] of doc.pieces.entries()) {
		if (!isSeen(piece)) continue;
		const id = FIRST_PIECE + i;
		const { copies, material: m, glow } = makePiece(piece, doc);
		// What glows is light as well: that is chosen where it is, so it stands in its middle.
		const ends = glow || opening === closing ? null : endsOf(opening.pieces[i], opening, closing.pieces[i], closing);
		const material = making.material(m);
		const turned = (mesh: string) => mesh !== copies[0].mesh;
		const acted = yield* compileActed(
			piece,
			making,
			copies.some((c) => turned(c.mesh)),
		);
		if (acted?.empty) {
			making.gone.push(piece.id);
			continue;
		}
		for (const [copy, { mesh: own, body, transform }] of copies.entries()) {
			const mesh = acted ? (turned(own) ? acted.mirrored : acted.mesh) : own;
			if (!making.parts.has(mesh))
				making.part("mesh", mesh, () => {
					const { mesh, coarse, faces } = makeGeometry(body, { blobs });
					return { mesh, faces, ...(coarse && { coarse }) };
				});
			if (glow)
				lights.push({
					...BODY,
					position: [transform[3], transform[7], transform[11]],
					rgb: glow,
					id,
					draw: draws.length,
				});
			draws.push({
				mesh,
				transform,
				material,
				id,
				...(glow && { light: lights.length - 1 }),
				...(ends && { way: [ends.opening[copy], ends.closing[copy]] as const }),
			});
		}
	}
}
