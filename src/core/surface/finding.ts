/** Surfaces found by words. */
import { SURFACE_KINDS, SURFACES, type SurfaceKind } from "./surfaces.ts";

/** What a surface can be found by, all in small letters. */
const textOf = (kind: SurfaceKind): string => {
	const { name, family, found = "" } = SURFACES[kind];
	return `${kind} ${name} ${family} ${found}`.toLowerCase();
};

/** Surfaces in which all of the words begin one of theirs, by family and name. */
export function foundBy(words: string): SurfaceKind[] {
	const wanted = words
		.toLowerCase()
		.split(/[\s,]+/)
		.filter(Boolean);
	const order = (kind: SurfaceKind) => `${SURFACES[kind].family} ${SURFACES[kind].name}`;
	return SURFACE_KINDS.filter((kind) => {
		const own = textOf(kind).split(/[\s,]+/);
		return wanted.every((word) => own.some((o) => o.startsWith(word)));
	}).sort((a, b) => (order(a) < order(b) ? -1 : 1));
}
