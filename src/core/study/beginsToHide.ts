/** What of the shot land begins to hide that has risen: told while it is drawn. */
import type { Camera, Ground, Piece } from "../doc/schema.ts";
import { groundHeight } from "../ground/height.ts";
import { footing } from "../shape/place.ts";

/** Places along a line of sight that are looked at where it passes over what has changed. */
const LOOKS = 24;
/** What is hidden anew, metres, is told from here on. */
const LEAST_M = 0.05;

export interface Hidden {
	piece: Piece;
	/** From its foot up to here, metres; no more than all of it. */
	upToM: number;
}

/**
 * Pieces that the land begins to hide within a round place, with how much of them from the foot upwards; those of which most is
 * hidden first. Lines of sight go from the lens to the middle of each piece; of those that pass the place the steepest rise tells.
 */
export function beginsToHide(
	{ camera, pieces }: { camera: Camera; pieces: readonly Piece[] },
	before: Ground,
	after: Ground,
	place: { x: number; z: number; radiusM: number },
): Hidden[] {
	const [ex, ey, ez] = camera.position;
	const found: Hidden[] = [];
	for (const piece of pieces) {
		if (piece.hidden) continue;
		const [x, up, z] = piece.position;
		const [dx, dz] = [x - ex, z - ez];
		const long = Math.hypot(dx, dz);
		if (long < 1) continue;
		// Where the line of sight passes over the place, as shares of the way.
		const along = ((place.x - ex) * dx + (place.z - ez) * dz) / (long * long);
		const off = Math.hypot(place.x - ex - along * dx, place.z - ez - along * dz);
		if (off >= place.radiusM) continue;
		const half = Math.sqrt(place.radiusM ** 2 - off ** 2) / long;
		const [from, to] = [Math.max(0.01, along - half), Math.min(0.995, along + half)];
		if (from >= to) continue;
		const hiddenTo = (ground: Ground) => {
			let steepest = Number.NEGATIVE_INFINITY;
			for (let k = 0; k <= LOOKS; k++) {
				const t = from + ((to - from) * k) / LOOKS;
				steepest = Math.max(steepest, (groundHeight(ground, ex + t * dx, ez + t * dz) - ey) / t);
			}
			return ey + steepest;
		};
		const foot = up + footing(piece, x, z, { ground: before, pieces });
		const [then, now] = [hiddenTo(before) - foot, hiddenTo(after) - foot];
		if (now > LEAST_M && now > then + LEAST_M) found.push({ piece, upToM: Math.min(now, Math.abs(piece.size[1])) });
	}
	return found.sort((a, b) => b.upToM - a.upToM);
}
