/** How a surface lies when it is laid: as its recipe has it. */
import type { Laid } from "../doc/schema.ts";
import { SURFACES, type SurfaceKind } from "./surfaces.ts";

export const isSurface = (word: string): word is SurfaceKind => Object.hasOwn(SURFACES, word);

export function laidAsMade(of: SurfaceKind, seed = 1): Laid {
	const { sideM, depthMm } = SURFACES[of];
	return { of, seed, turnDeg: 0, acrossM: sideM, reliefMm: depthMm, tint: 0, wet: 0 };
}
