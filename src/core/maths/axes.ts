/** Headings, pitches and rolls, and the axes that they make. */
import { asin, atan2, cos, DEG, sin } from "./functions.ts";
import type { Vec3 } from "./vec.ts";

/**
 * Axes of a camera in the world. Heading clockwise seen from above from −Z, pitch positive upwards, roll positive when
 * the camera turns clockwise seen from behind it.
 */
export function cameraAxes(
	headingDeg: number,
	pitchDeg: number,
	rollDeg: number,
): { right: Vec3; up: Vec3; forward: Vec3 } {
	const sh = sin(headingDeg * DEG);
	const ch = cos(headingDeg * DEG);
	const sp = sin(pitchDeg * DEG);
	const cp = cos(pitchDeg * DEG);
	const sr = sin(rollDeg * DEG);
	const cr = cos(rollDeg * DEG);
	const forward: Vec3 = [sh * cp, sp, -ch * cp];
	const level: Vec3 = [ch, 0, sh];
	const over: Vec3 = [-sh * sp, cp, ch * sp];
	return {
		right: [cr * level[0] - sr * over[0], -sr * over[1], cr * level[2] - sr * over[2]],
		up: [cr * over[0] + sr * level[0], cr * over[1], cr * over[2] + sr * level[2]],
		forward,
	};
}

/** Heading, pitch and roll of axes: the way back from {@link cameraAxes}. Straight up or down the roll is 0. */
export function anglesOf({ right, up, forward }: ReturnType<typeof cameraAxes>): {
	headingDeg: number;
	pitchDeg: number;
	rollDeg: number;
} {
	const pitchDeg = asin(Math.max(-1, Math.min(1, forward[1]))) / DEG;
	if (Math.hypot(forward[0], forward[2]) < 1e-9)
		return { headingDeg: atan2(right[2], right[0]) / DEG, pitchDeg, rollDeg: 0 };
	return { headingDeg: atan2(forward[0], -forward[2]) / DEG, pitchDeg, rollDeg: atan2(-right[1], up[1]) / DEG };
}

/** What is nearer to upright than this, as a cosine, has no heading of its own. */
const UPRIGHT = 0.98;

/** Heading and pitch of a look straight against a normal; where that points up or down, at a heading that is told. */
export function lookAgainst([x, y, z]: Vec3, headingDeg: number): { headingDeg: number; pitchDeg: number } {
	const l = Math.hypot(x, y, z);
	const pitchDeg = -asin(Math.max(-1, Math.min(1, y / l))) / DEG;
	return { headingDeg: Math.abs(y / l) > UPRIGHT ? headingDeg : atan2(-x, z) / DEG, pitchDeg };
}
