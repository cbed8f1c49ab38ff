/** Numbers of the id layer. */
import type { ShotDocument } from "../doc/schema.ts";

export const ID_SKY = 0;
export const ID_GROUND = 1;
export const ID_WATER = 2;
/** Number of the first piece; covers and lamps come after all pieces. */
export const FIRST_PIECE = 3;

/** What the numbers stand for: sky, ground, water, pieces, covers, lamps, in the order of the document. */
export function namesOfIds(doc: Pick<ShotDocument, "pieces" | "covers" | "lamps">): { id: string; name: string }[] {
	const fixed = ["Sky", "Ground", "Water"].map((name) => ({ id: name.toLowerCase(), name }));
	return [...fixed, ...[...doc.pieces, ...doc.covers, ...doc.lamps].map(({ id, name }) => ({ id, name }))];
}
