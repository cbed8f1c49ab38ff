/**
 * The sea as it stands in its waves at a moment, as triangles for lenses: its crests are true shapes where a frame would tell them from a
 * plane. Waves that are too short for that tilt the light alone.
 */

import { FINE, type Fineness, meshForLens } from "./meshForLens.ts";
import type { Planet } from "./planet.ts";
import type { Wave } from "./ripples.ts";
import type { LensFootprint } from "./sight.ts";
import { heightOfWaves } from "./waves.ts";

/** Waves shorter than this are no shapes, metres. */
const SHORTEST_M = 0.25;
/** A wave is a shape where it stands up by more than so many pixels; it has so many edges. */
const STANDS_PX = 0.5;
const EDGES = 3;

/** Amplitude, metres. */
const amplitude = ({ slope, lengthM }: Wave): number => (slope * lengthM) / (2 * Math.PI);

/** Triangles of the sea, positions relative to the middle of the lenses' feet (x, 0, z). */
export function seaMesh(
	waves: readonly Wave[],
	levelM: number,
	feet: readonly LensFootprint[],
	planet: Planet | null = null,
	fineness: Fineness = FINE,
) {
	const shapes = waves.filter((w) => w.lengthM > SHORTEST_M);
	// How far each is seen to stand up, the farthest first.
	const reach = shapes
		.map((w) => ({ lengthM: w.lengthM, far: amplitude(w) / (STANDS_PX * Math.min(...feet.map((f) => f.pixel))) }))
		.sort((a, b) => a.lengthM - b.lengthM);
	const grain = (x: number, z: number, radiusM: number): number => {
		let nearest = Number.POSITIVE_INFINITY;
		for (const foot of feet) {
			const [dx, dy, dz] = [foot.x - x, foot.y - levelM, foot.z - z];
			nearest = Math.min(nearest, Math.sqrt(dx * dx + dy * dy + dz * dz) - radiusM);
		}
		for (const { lengthM, far } of reach) if (far > nearest) return lengthM / EDGES;
		return Number.POSITIVE_INFINITY;
	};
	const heightAt = (x: number, z: number) => levelM + heightOfWaves(shapes, x, z);
	return meshForLens({ heightAt, grain, planet }, feet, fineness).mesh;
}
