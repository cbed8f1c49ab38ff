/** What is small in a frame, and can be drawn with fewer faces. */
import type { Mat34, Vec3 } from "../maths/vec.ts";

/** Share of their distance below which copies are small: with fewer faces their outlines are off by half a pixel at most. */
const SMALL = 0.05;

/** Whether a copy, whose body is one across before its transform, is small as seen from a place. */
export function isSmall(m: Mat34, from: Vec3): boolean {
	const size = Math.max(...[0, 1, 2].map((c) => Math.hypot(m[c], m[4 + c], m[8 + c])));
	return size < SMALL * Math.hypot(m[3] - from[0], m[7] - from[1], m[11] - from[2]);
}
