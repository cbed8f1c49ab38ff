/** Places of the world under a place of the frame. */
import type { Ground } from "../doc/schema.ts";
import { type FrameOfView, rayThrough } from "../lens/camera.ts";
import type { Vec3 } from "../maths/vec.ts";
import { groundHeight } from "./height.ts";

/** A place of the frame, 0 to 1 from its top-left corner. */
export interface Point {
	x: number;
	y: number;
}

/** Place on the ground under a place of the frame (0 to 1), or null above the horizon or beyond 30 km. */
export function groundUnder(view: FrameOfView, ground: Ground, at: Point): Vec3 | null {
	const d = rayThrough(view, at.x, at.y);
	let y = groundHeight(ground, view.position[0], view.position[2]);
	for (let i = 0; i < 8; i++) {
		if (d[1] >= -1e-5) return null;
		const t = (y - view.position[1]) / d[1];
		if (!(t > 0) || t > 30_000) return null;
		const p: Vec3 = [view.position[0] + d[0] * t, y, view.position[2] + d[2] * t];
		const now = groundHeight(ground, p[0], p[2]);
		if (Math.abs(now - y) < 0.002) return [p[0], now, p[2]];
		y = now;
	}
	return null;
}

/** Place on a level plane under a place of the frame. */
export function levelUnder(view: FrameOfView, y: number, at: Point): Vec3 | null {
	const d = rayThrough(view, at.x, at.y);
	const t = (y - view.position[1]) / d[1];
	if (!(t > 0) || t > 30_000) return null;
	return [view.position[0] + d[0] * t, y, view.position[2] + d[2] * t];
}
