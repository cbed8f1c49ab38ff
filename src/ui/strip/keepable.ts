/** What can be kept as a key at a moment: the camera's values, those of what is selected, and those of the air and the finish. */
import type { NewKey } from "../../core/doc/edits/move.ts";
import { keyedWords, readKeyed, trackOf } from "../../core/doc/keyedValues.ts";
import { KEYED_NAMES, type KeyedName, keyed, type ShotDocument } from "../../core/doc/schema.ts";
import type { FreePose } from "../store/studio.ts";

export interface Keepable {
	value: KeyedName;
	of?: string;
	words: string;
	/** The value as it would be kept. */
	is: unknown;
	/** Something is kept of it already. */
	keyed: boolean;
}

/** What a walk changes of the camera. */
export const SEEING: readonly KeyedName[] = ["camera.place", "camera.direction", "camera.focal"];

/** The document as it would be if the lens stood where a free view does. */
export function seenFrom(doc: ShotDocument, free: FreePose | null): ShotDocument {
	return free ? { ...doc, camera: { ...doc.camera, rollDeg: 0, ...free } } : doc;
}

/** `selected` and `lamp` name what is in hand; what is keyed already is always among them. */
export function keepables(
	doc: ShotDocument,
	{ free, selected, lamp }: { free: FreePose | null; selected: readonly string[]; lamp: string | null },
): Keepable[] {
	const seen = seenFrom(doc, free);
	const things: Record<string, (string | undefined)[]> = {
		piece: [...selected],
		lamp: lamp ? [lamp] : [],
	};
	for (const { value, of } of doc.move?.tracks ?? []) {
		const list = things[keyed(value).holder];
		if (of && list && !list.includes(of)) list.push(of);
	}
	return KEYED_NAMES.flatMap((value) =>
		(things[keyed(value).holder] ?? [undefined]).flatMap((of): Keepable[] => {
			const is = readKeyed(seen, value, of);
			if (is === undefined || is === null) return [];
			return [{ value, of, words: keyedWords(doc, value, of), is, keyed: !!trackOf(doc.move, value, of) }];
		}),
	);
}

export const keysOf = (kept: readonly Keepable[], timeS: number): NewKey[] =>
	kept.map(({ value, of, is }) => ({ value, timeS, is, ...(of !== undefined && { of }) }));
