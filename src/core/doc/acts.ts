/** Which pieces are cut out of others, joined to them, or leave what they have in common. */
import { isIn } from "./groups.ts";
import type { Piece, ShotDocument } from "./schema.ts";

type Acting = Pick<ShotDocument, "pieces" | "groups">;

/** What acts on what acts on what, at most. */
const DEEPEST = 16;

/** Whether a piece is seen by itself: it is not left out, and does nothing to another. */
export const isSeen = (piece: Pick<Piece, "hidden" | "act">): boolean => !piece.hidden && !piece.act;

/** The pieces that an act of another is done to; it does nothing to itself. */
export const actedOn = (by: Piece, { pieces, groups }: Acting): Piece[] =>
	by.act ? pieces.filter((p) => p.id !== by.id && (p.id === by.act?.on || isIn(p, by.act?.on ?? null, groups))) : [];

const NONE: ReadonlyMap<string, readonly Piece[]> = new Map();

const known = new WeakMap<readonly Piece[], { groups: Acting["groups"]; by: ReadonlyMap<string, readonly Piece[]> }>();

/** Of each piece that something is done to, what does it, in the order of the document. */
export function actors(doc: Acting): ReadonlyMap<string, readonly Piece[]> {
	const { pieces, groups } = doc;
	const held = known.get(pieces);
	if (held && held.groups === groups) return held.by;
	if (!pieces.some((p) => p.act)) {
		known.set(pieces, { groups, by: NONE });
		return NONE;
	}
	const by = new Map<string, Piece[]>();
	for (const piece of pieces) {
		if (!piece.act || piece.hidden) continue;
		for (const { id } of actedOn(piece, doc)) by.set(id, [...(by.get(id) ?? []), piece]);
	}
	known.set(pieces, { groups, by });
	return by;
}

/** Whether pieces would in the end act on themselves. */
export function actsOnItself(piece: Piece, doc: Acting): boolean {
	let at = [piece];
	for (let deep = 0; deep < DEEPEST && at.length; deep++) {
		at = at.flatMap((p) => actedOn(p, doc));
		if (at.some((p) => p.id === piece.id)) return true;
	}
	return at.length > 0;
}
