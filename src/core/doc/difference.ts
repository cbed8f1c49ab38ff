/**
 * What has changed between two documents that share what has not: by identity, so that it costs no more than a walk over
 * the top. Of the pieces, of which there may be thousands, only those that changed are named.
 */
import type { Piece, ShotDocument } from "./schema.ts";

export interface Difference {
	/** Fields of the document that are others, besides pieces of an unchanged number. */
	fields: Partial<ShotDocument>;
	/** Fields that are gone. */
	gone: (keyof ShotDocument)[];
	/** Pieces that are others, by place in the list. */
	pieces: [place: number, piece: Piece][];
}

/** Beyond this share of changed pieces the whole list is no more to tell. */
const MOST_OF_LIST = 0.5;

export function differenceOf(before: ShotDocument | null, after: ShotDocument): Difference {
	if (!before) return { fields: after, gone: [], pieces: [] };
	const out: Difference = { fields: {}, gone: [], pieces: [] };
	for (const key of Object.keys(after) as (keyof ShotDocument)[])
		if (after[key] !== before[key]) Object.assign(out.fields, { [key]: after[key] });
	for (const key of Object.keys(before) as (keyof ShotDocument)[]) if (!(key in after)) out.gone.push(key);
	if (out.fields.pieces && before.pieces.length === after.pieces.length) {
		const pieces = after.pieces.flatMap((p, i): Difference["pieces"] => (p === before.pieces[i] ? [] : [[i, p]]));
		if (pieces.length <= MOST_OF_LIST * after.pieces.length) {
			out.pieces = pieces;
			delete out.fields.pieces;
		}
	}
	return out;
}

/** The later document; what has not changed is the earlier one's own. */
export function withDifference(before: ShotDocument | null, { fields, gone, pieces }: Difference): ShotDocument {
	const after = { ...before, ...fields } as ShotDocument;
	for (const key of gone) delete (after as Partial<ShotDocument>)[key];
	if (pieces.length) {
		after.pieces = after.pieces.slice();
		for (const [place, piece] of pieces) after.pieces[place] = piece;
	}
	return after;
}
