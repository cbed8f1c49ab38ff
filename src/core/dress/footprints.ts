/** Outlines of pieces on the ground, repeats included, for rules that keep away from them. */
import type { Piece } from "../doc/schema.ts";
import { cos, DEG, sin } from "../maths/functions.ts";
import { isRound } from "../shape/primitives.ts";

export interface Footprint {
	x: number;
	z: number;
	halfWidth: number;
	halfDepth: number;
	cos: number;
	sin: number;
	round: boolean;
	/** Radius of the circle about it. */
	reach: number;
}

/** Offsets of a piece's copies in the world, the first is none. */
export function repeatOffsets(piece: Piece): [number, number][] {
	const out: [number, number][] = [];
	const { count, step } = piece.repeat ?? { count: 1, step: [0, 0] };
	const c = cos(piece.headingDeg * DEG);
	const s = sin(piece.headingDeg * DEG);
	for (let i = 0; i < count; i++) {
		const right = step[0] * i;
		const away = step[1] * i;
		out.push([c * right + s * away, s * right - c * away]);
	}
	return out;
}

export function footprints(pieces: readonly Piece[]): Footprint[] {
	const out: Footprint[] = [];
	for (const p of pieces) {
		if (p.hidden) continue;
		for (const [ox, oz] of repeatOffsets(p)) {
			out.push({
				x: p.position[0] + ox,
				z: p.position[2] + oz,
				halfWidth: p.size[0] / 2,
				halfDepth: (p.leanDeg === 0 ? p.size[2] : Math.max(p.size[1], p.size[2])) / 2,
				cos: cos(p.headingDeg * DEG),
				sin: sin(p.headingDeg * DEG),
				round: isRound(p.kind),
				reach: 0.5 * Math.sqrt(p.size[0] ** 2 + Math.max(p.size[2], p.leanDeg === 0 ? 0 : p.size[1]) ** 2),
			});
		}
	}
	return out;
}

/** Distance in metres from a place to a footprint's outline, 0 inside. */
export function distanceTo(f: Footprint, x: number, z: number): number {
	const dx = x - f.x;
	const dz = z - f.z;
	const a = Math.abs(f.cos * dx + f.sin * dz);
	const b = Math.abs(-f.sin * dx + f.cos * dz);
	if (f.round) {
		const r = Math.sqrt((a / f.halfWidth) ** 2 + (b / f.halfDepth) ** 2);
		return r <= 1 ? 0 : (1 - 1 / r) * Math.sqrt(a * a + b * b);
	}
	const ex = Math.max(0, a - f.halfWidth);
	const ez = Math.max(0, b - f.halfDepth);
	return Math.sqrt(ex * ex + ez * ez);
}
