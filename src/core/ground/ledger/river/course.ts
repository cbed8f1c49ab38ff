/** A river's course over land: how high its water lies along its curve. */

import type { Land } from "../entry.ts";
import { curveThrough, type PathSample } from "../path/curve.ts";

interface CourseOf {
	points: readonly (readonly [number, number])[];
	widthM: number;
	fall: number;
	underM: number;
}

/** Samples of a course beyond its ends, so that its water reaches all of its bed there. */
const BEYOND = 0.5;

/** Directions across the line at each of its places, of length 1. */
export function acrossOf(spots: readonly { x: number; z: number }[]): [number, number][] {
	return spots.map((_, i) => {
		const [a, b] = [spots[Math.max(0, i - 1)], spots[Math.min(spots.length - 1, i + 1)]];
		const long = Math.sqrt((b.x - a.x) ** 2 + (b.z - a.z) ** 2) || 1;
		return [-(b.z - a.z) / long, (b.x - a.x) / long];
	});
}

/**
 * Places of a river with the height of its water: under the land on both of its sides, and nowhere above what it was before, less its
 * fall; where the land rises it cuts.
 */
export function courseOver({ points, widthM, fall, underM }: CourseOf, land: Land): PathSample[] {
	const spots = curveThrough(points, widthM / 3).map(([x, z]) => ({ x, z, alongM: 0, heightM: 0, landM: 0 }));
	const across = acrossOf(spots);
	for (const [i, s] of spots.entries()) {
		const [ax, az] = across[i];
		const half = widthM / 2;
		s.landM = Math.min(land(s.x, s.z), land(s.x + half * ax, s.z + half * az), land(s.x - half * ax, s.z - half * az));
		const before = spots[i - 1];
		if (!before) {
			s.heightM = s.landM - underM;
			continue;
		}
		const way = Math.sqrt((s.x - before.x) ** 2 + (s.z - before.z) ** 2);
		s.alongM = before.alongM + way;
		s.heightM = Math.min(before.heightM - fall * way, s.landM - underM);
	}
	return spots;
}

/** A course led on beyond both of its ends by half its width, level. */
export function ledOn(course: readonly PathSample[], widthM: number): PathSample[] {
	const end = (from: PathSample, to: PathSample): PathSample => {
		const long = Math.sqrt((to.x - from.x) ** 2 + (to.z - from.z) ** 2) || 1;
		const by = (BEYOND * widthM) / long;
		return { ...to, x: to.x + by * (to.x - from.x), z: to.z + by * (to.z - from.z) };
	};
	return [end(course[1], course[0]), ...course, end(course[course.length - 2], course[course.length - 1])];
}
