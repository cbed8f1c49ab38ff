/** What a person takes hold of by pointing at a piece: the group that has it, or, in a group that was entered, the piece. */
import { groupOfAll, groupsAbout, isIn, piecesIn, takenAs } from "../../core/doc/groups.ts";
import type { Group, Piece } from "../../core/doc/schema.ts";
import { shownDocument } from "./shotStore.ts";
import { useStudio } from "./studio.ts";

/** Who points at a piece outside of the group that was entered has left it. */
function enteredAt(piece: Piece): string | null {
	const { entered } = useStudio.getState();
	return entered !== null && isIn(piece, entered, shownDocument().groups) ? entered : null;
}

/** Ids of the pieces that are taken with one of them. */
export function takenWith(id: string): string[] {
	const doc = shownDocument();
	const piece = doc.pieces.find((p) => p.id === id);
	const group = piece && takenAs(piece, enteredAt(piece), doc.groups);
	return group ? piecesIn(doc, group.id).map((p) => p.id) : [id];
}

/** Ids of what a drag that begins on a piece takes: all that is selected when that is, or what is taken with it. */
export function draggedWith(id: string, more: boolean): string[] {
	const { selected } = useStudio.getState();
	return selected.includes(id) && !more ? selected : takenWith(id);
}

/** Selects what is taken with a piece; `deeper` enters the group that has it first. */
export function pickPiece(id: string, more = false, deeper = false): void {
	const { select, set } = useStudio.getState();
	const doc = shownDocument();
	const piece = doc.pieces.find((p) => p.id === id);
	if (!piece) return;
	const entered = enteredAt(piece);
	const group = deeper ? takenAs(piece, entered, doc.groups) : null;
	set({ entered: group?.id ?? entered });
	select(takenWith(id), more);
}

/** The group that is selected as a whole, when one is. */
export function selectedGroup(): Group | null {
	const doc = shownDocument();
	const { selected } = useStudio.getState();
	const chosen = new Set(selected);
	return groupOfAll(
		doc.pieces.filter((p) => chosen.has(p.id)),
		doc,
	);
}

/** Enters a group: its parts are picked by themselves from now on. */
export function enterGroup(id: string): void {
	useStudio.getState().set({ entered: id, selected: [] });
}

/** Leaves the group that was entered, and takes it as a whole. False where none was. */
export function leaveGroup(): boolean {
	const { entered, set } = useStudio.getState();
	const doc = shownDocument();
	const group = doc.groups?.find((g) => g.id === entered);
	if (!group) {
		set({ entered: null });
		return false;
	}
	const [about] = groupsAbout(group, doc.groups);
	set({ entered: about?.id ?? null, selected: piecesIn(doc, group.id).map((p) => p.id) });
	return true;
}
