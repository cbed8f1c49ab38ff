/**
 * Documents of earlier days. Each step takes a document of one version to the next; nothing that it says is lost, and the
 * picture stays what it was.
 */
import { DOCUMENT_VERSION, type ShotDocument } from "./schema.ts";

/** A document as some version of the schema had it. */
export interface StoredDocument {
	version: number;
	[field: string]: unknown;
}

type Fields = Record<string, unknown>;

/** Version 1 told a piece's body by its kind alone, and its one lean was a pitch the other way about. */
function pieceOfVersion2({ kind, leanDeg, ...piece }: Fields): Fields {
	return { ...piece, shape: { kind }, pitchDeg: 0 - (leanDeg as number), rollDeg: 0 };
}

/** Version 2 knew rows alone. */
const pieceOfVersion3 = (piece: Fields): Fields =>
	piece.repeat ? { ...piece, repeat: { kind: "row", ...(piece.repeat as Fields) } } : piece;

/** By the version that a step begins with. */
const STEPS: Record<number, (doc: StoredDocument) => StoredDocument> = {
	1: (doc) => ({
		...doc,
		version: 2,
		// The first documents had no lamps.
		lamps: doc.lamps ?? [],
		pieces: (doc.pieces as Fields[]).map(pieceOfVersion2),
	}),
	2: (doc) => ({ ...doc, version: 3, pieces: (doc.pieces as Fields[]).map(pieceOfVersion3) }),
};

/** A document as a version had it, of one of that version or before. Throws where it is of a later one. */
export function migrated(doc: StoredDocument, to: number): StoredDocument {
	if (doc.version > to)
		throw new Error(`This document is of version ${doc.version}; it cannot be taken back to version ${to}.`);
	let now = doc;
	while (now.version < to) now = STEPS[now.version](now);
	return now;
}

/** A stored document as the present schema has it. The same one when there is nothing to do. */
export const upgrade = (stored: StoredDocument | ShotDocument): ShotDocument =>
	migrated(stored as StoredDocument, DOCUMENT_VERSION) as unknown as ShotDocument;
