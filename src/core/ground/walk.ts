/** Walking and flying through the set with a free view. */
import type { Ground } from "../doc/schema.ts";
import { cameraAxes } from "../maths/axes.ts";
import { groundHeight } from "./height.ts";

export interface Pose {
	position: readonly [number, number, number];
	headingDeg: number;
	pitchDeg: number;
}

/**
 * Where a view comes to by metres to its right, ahead and up: walking keeps the eyes' height over the ground, flying goes
 * along the view.
 */
export function walked(
	{ position: [x, y, z], headingDeg, pitchDeg }: Pose,
	{ right, ahead, up }: { right: number; ahead: number; up: number },
	flying: boolean,
	ground: Ground,
): [number, number, number] {
	const { right: r, forward: f } = cameraAxes(headingDeg, flying ? pitchDeg : 0, 0);
	const to: [number, number, number] = [
		x + right * r[0] + ahead * f[0],
		y + ahead * f[1] + up,
		z + right * r[2] + ahead * f[2],
	];
	if (!flying) to[1] += groundHeight(ground, to[0], to[2]) - groundHeight(ground, x, z);
	return to;
}

/** Metres to the east and south (x and z) of steps to the right and away, as a heading has them. */
export function alongHeading(headingDeg: number, right: number, away: number): [number, number] {
	const { right: r } = cameraAxes(headingDeg, 0, 0);
	return [right * r[0] + away * r[2], right * r[2] - away * r[0]];
}
