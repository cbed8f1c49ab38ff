/** Cones of light that fade towards their rim. */
import type { Lamp } from "../doc/schema.ts";
import { cos, DEG } from "../maths/functions.ts";

/** Steradians of a cone whose light fades smoothly between two cosines; the strength on the axis times this is its flux. */
export const coneSteradians = (cosInner: number, cosOuter: number): number =>
	2 * Math.PI * (1 - cosInner + (cosInner - cosOuter) / 2);

/** Cosines between which a spot fades; the cone's full angle is where it is dark. */
export function coneCosines(lamp: Pick<Lamp, "coneDeg" | "softness">): { cosInner: number; cosOuter: number } {
	const half = (lamp.coneDeg / 2) * DEG;
	return { cosOuter: cos(half), cosInner: cos(half * (1 - Math.max(0.02, lamp.softness))) };
}
