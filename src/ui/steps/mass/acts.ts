/** What the keys and the lines of Mass do with what is selected. */
import { groupPieces, onceMore } from "../../../core/shape/together.ts";
import { newId } from "../../parts/words.ts";
import { enterGroup, selectedGroup } from "../../store/pick.ts";
import { useShot } from "../../store/shotStore.ts";
import { useStudio } from "../../store/studio.ts";

const selectedPieces = () => {
	const { selected } = useStudio.getState();
	const chosen = new Set(selected);
	return useShot.getState().document.pieces.filter((p) => chosen.has(p.id));
};

/** Another of each selected piece, to the right of them. */
export function anotherOfSelected(shared: boolean): boolean {
	const { document, commit } = useShot.getState();
	const originals = selectedPieces();
	if (originals.length === 0) return false;
	const edit = onceMore(originals, document, shared, newId);
	if (commit(edit)) useStudio.getState().select(edit.pieces.map((p) => p.id));
	return true;
}

/** What is selected as one group, which goes on being selected. */
export function groupSelected(): boolean {
	const { document, commit } = useShot.getState();
	const pieces = selectedPieces();
	if (pieces.length === 0) return false;
	return commit(groupPieces(pieces, document, useStudio.getState().entered, newId()));
}

export function enterSelected(): boolean {
	const group = selectedGroup();
	if (!group) return false;
	enterGroup(group.id);
	return true;
}
