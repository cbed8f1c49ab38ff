/** How a surface lies when it is laid: as its recipe has it. */
import type { Laid, LaidOver, Piece } from "../doc/schema.ts";
import { stableJson } from "../maths/hash.ts";
import { SURFACES, type SurfaceKind } from "./surfaces.ts";
import { WHERES } from "./where/wheres.ts";

export const isSurface = (word: string): word is SurfaceKind => Object.hasOwn(SURFACES, word);

/** What lies on all of them alike; undefined where they differ. */
export function laidOnAll(pieces: readonly Pick<Piece, "surface">[]): Laid | null | undefined {
	const [first, ...others] = pieces.map((p) => p.surface.laid ?? null);
	return others.every((laid) => stableJson(laid) === stableJson(first)) ? first : undefined;
}

export function laidAsMade(of: SurfaceKind, seed = 1): Laid {
	const { sideM, depthMm } = SURFACES[of];
	return { of, seed, turnDeg: 0, acrossM: sideM, reliefMm: depthMm, tint: 0, wet: 0 };
}

/** What lies as the first of several as it lies over another: where that faces up, at first, as thick as its recipe has it. */
export const asOver = ({ over: _, ...laid }: Laid): LaidOver => {
	const thickMm = laid.thickMm ?? (isSurface(laid.of) ? SURFACES[laid.of].thickMm : undefined);
	return { ...laid, ...(thickMm && { thickMm }), share: 1, where: [WHERES.facing.usual] };
};

/** A surface as it is laid over another. */
export const laidOver = (of: SurfaceKind): LaidOver => asOver(laidAsMade(of));

/** What of the surface changes of each of those on which something lies. */
export const laidOfAll = (
	pieces: readonly Pick<Piece, "id" | "surface">[],
	change: Partial<Pick<Laid, "wet" | "rougher" | "worn" | "dirt">>,
): { id: string; surface: { laid: Laid } }[] =>
	pieces.flatMap(({ id, surface: { laid } }) => (laid ? [{ id, surface: { laid: { ...laid, ...change } } }] : []));
