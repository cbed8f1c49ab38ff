/** Surfaces found by words. */
import { FAMILIES, SURFACE_KINDS, SURFACES, type SurfaceKind } from "./surfaces.ts";

/** What a surface can be found by, all in small letters. */
const textOf = (kind: SurfaceKind): string => {
	const { name, family, found } = SURFACES[kind];
	return `${kind} ${name} ${family} ${found}`.toLowerCase();
};

/** Surfaces in which all of the words begin one of theirs, by family and name. */
export function foundBy(words: string): SurfaceKind[] {
	const wanted = words
		.toLowerCase()
		.split(/[\s,]+/)
		.filter(Boolean);
	const family = (kind: SurfaceKind) => FAMILIES.indexOf(SURFACES[kind].family);
	return SURFACE_KINDS.filter((kind) => {
		const own = textOf(kind).split(/[\s,]+/);
		return wanted.every((word) => own.some((o) => o.startsWith(word)));
	}).sort((a, b) => family(a) - family(b) || (SURFACES[a].name < SURFACES[b].name ? -1 : 1));
}
