/** Which pieces are in which groups. Groups are few and pieces many: one look through the pieces answers for all. */
import type { Group, Piece, ShotDocument } from "./schema.ts";

type Grouped = Pick<ShotDocument, "pieces" | "groups">;

/** Groups in groups at most: what is deeper, or goes round, is taken as if it ended there. */
const DEEPEST = 32;

const NONE: readonly Group[] = [];

const named = new WeakMap<readonly Group[], Map<string, Group>>();

export function groupNamed(groups: readonly Group[] = NONE, id: string): Group | undefined {
	let all = named.get(groups);
	if (!all) {
		all = new Map(groups.map((g) => [g.id, g]));
		named.set(groups, all);
	}
	return all.get(id);
}

/** The groups that a piece or a group is in, the innermost first. */
export function groupsAbout(of: { group?: string }, groups: readonly Group[] = NONE): Group[] {
	const out: Group[] = [];
	for (let id = of.group; id !== undefined && out.length < DEEPEST; ) {
		const group = groupNamed(groups, id);
		if (!group) break;
		out.push(group);
		id = group.group;
	}
	return out;
}

/** Whether a piece or a group is in a group, however deep; everything is in none. */
export const isIn = (of: { group?: string }, id: string | null, groups?: readonly Group[]): boolean =>
	id === null || groupsAbout(of, groups).some((g) => g.id === id);

/** All pieces of a group, those of the groups in it among them. */
export const piecesIn = ({ pieces, groups }: Grouped, id: string): Piece[] =>
	pieces.filter((p) => p.group !== undefined && isIn(p, id, groups));

/**
 * What a piece is taken as by one who stands in a group that was entered, or in none: the group in it that has the piece,
 * or null where the piece stands for itself.
 */
export function takenAs(piece: Piece, entered: string | null, groups?: readonly Group[]): Group | null {
	if (piece.group === undefined) return null;
	const about = groupsAbout(piece, groups);
	const at = entered === null ? about.length : about.findIndex((g) => g.id === entered);
	return at > 0 ? about[at - 1] : null;
}

/** The one group of which some pieces are all that it has; null for other pieces. */
export function groupOfAll(pieces: readonly Piece[], doc: Grouped): Group | null {
	const [first] = pieces;
	if (first?.group === undefined) return null;
	for (const group of groupsAbout(first, doc.groups).reverse()) {
		if (!pieces.every((p) => isIn(p, group.id, doc.groups))) continue;
		if (piecesIn(doc, group.id).length === pieces.length) return group;
	}
	return null;
}

/** Pieces that share a piece's shape, itself among them. */
export const sharers = (piece: Piece, pieces: readonly Piece[]): Piece[] =>
	piece.shared === undefined ? [piece] : pieces.filter((p) => p.shared === piece.shared);
