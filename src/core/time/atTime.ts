/** Edits at a time of the move. */

import type { NewKey } from "../doc/edits/move.ts";
import { applyEdit, type Edit } from "../doc/edits.ts";
import { readKeyed } from "../doc/keyedValues.ts";
import type { ShotDocument } from "../doc/schema.ts";
import { documentAt } from "./documentAt.ts";

const alike = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/**
 * An edit as it is meant by a hand that sees the shot at a time of its move: where it changes values that are keyed, their
 * keys at that time; all else as ever. `document` is the shot itself, not its state at that time. The edit comes back as it
 * is when nothing keyed is touched. Throws as {@link applyEdit} does.
 * @example commit(atTime(doc, { name: "piece.move", pieces: [{ id: "cart", position: [2, 0, -9] }] }, 1.5))
 */
export function atTime(document: ShotDocument, edit: Edit, timeS: number | null): Edit {
	const { move } = document;
	if (timeS === null || !move?.tracks.length || edit.name.startsWith("move.")) return edit;
	const still = { ...document, move: { ...move, tremor: null } };
	const now = documentAt(still, timeS);
	const after = applyEdit(now, edit).document;
	const keys: NewKey[] = [];
	for (const { value, of } of move.tracks) {
		const is = readKeyed(after, value, of);
		if (is === undefined || alike(is, readKeyed(now, value, of))) continue;
		keys.push({ value, timeS, is, ...(of !== undefined && { of }) });
	}
	if (keys.length === 0) return edit;
	return { name: "move.at", edit: edit as unknown as Record<string, unknown>, keys };
}
