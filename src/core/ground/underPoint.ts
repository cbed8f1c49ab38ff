/** Places of the world under a place of the frame. */
import type { Ground } from "../doc/schema.ts";
import { type FrameOfView, rayThrough } from "../lens/camera.ts";
import { add, scale, type Vec3 } from "../maths/vec.ts";
import { groundHeight } from "./height.ts";
import { radiusOf, sunkM } from "./planet.ts";

/** A place of the frame, 0 to 1 from its top-left corner. */
export interface Point {
	x: number;
	y: number;
}

/** How far the ground is looked for, metres; the first step along the ray, and the factor by which steps grow. */
const FARTHEST_M = 30_000;
const FIRST_M = 0.25;
const GROWTH = 1.06;
const HALVINGS = 24;

/**
 * Place on the ground under a place of the frame (0 to 1), or null where the ray meets none within 30 km. The first crossing
 * is looked for by steps that grow with the distance, and halved down to: what is shorter along the ray than six hundredths of
 * its distance may be stepped over.
 */
export function groundUnder(view: FrameOfView, ground: Ground, at: Point): Vec3 | null {
	const d = rayThrough(view, at.x, at.y);
	const l = Math.hypot(...d);
	const along = (t: number): Vec3 => add(view.position, scale(d, t / l));
	const radiusM = radiusOf(ground);
	const [ex, , ez] = view.position;
	const over = ([x, y, z]: Vec3) => y + sunkM(radiusM, Math.hypot(x - ex, z - ez)) - groundHeight(ground, x, z);
	if (over(view.position) <= 0) return null;
	let [near, far] = [0, FIRST_M];
	while (over(along(far)) > 0) {
		near = far;
		far *= GROWTH;
		if (far > FARTHEST_M) return null;
	}
	for (let i = 0; i < HALVINGS; i++) {
		const half = (near + far) / 2;
		if (over(along(half)) > 0) near = half;
		else far = half;
	}
	const [x, , z] = along(far);
	return [x, groundHeight(ground, x, z), z];
}

/** Place on a level plane under a place of the frame. */
export function levelUnder(view: FrameOfView, y: number, at: Point): Vec3 | null {
	const d = rayThrough(view, at.x, at.y);
	const t = (y - view.position[1]) / d[1];
	if (!(t > 0) || t > 30_000) return null;
	return [view.position[0] + d[0] * t, y, view.position[2] + d[2] * t];
}
