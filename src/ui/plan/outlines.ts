/** Pieces as they lie in the plan, and which of them a pointer is on. */
import type { Piece } from "../../core/doc/schema.ts";
import { isRound } from "../../core/shape/primitives.ts";
import { keptBy } from "../parts/same.ts";

/** Pixels about a piece that count as it. */
const REACH_PX = 5;

/** A piece from above: its middle, half extents and turn in the plan. */
export interface Outline {
	piece: Piece;
	x: number;
	y: number;
	halfW: number;
	halfD: number;
	turn: number;
	round: boolean;
	/** Where the last of its copies stands, beside its middle. */
	last: [number, number] | null;
}

/** Where places of the world lie in the plan. */
export interface Place {
	at: (x: number, z: number) => { x: number; y: number };
	headingDeg: number;
	scale: number;
}

export const outlineOf = keptBy((piece: Piece, { at, headingDeg, scale }: Place): Outline => {
	const { size, leanDeg, kind, repeat } = piece;
	const turn = ((piece.headingDeg - headingDeg) * Math.PI) / 180;
	const [right, away] = repeat && repeat.count > 1 ? repeat.step.map((s) => s * (repeat.count - 1) * scale) : [0, 0];
	return {
		piece,
		...at(piece.position[0], piece.position[2]),
		halfW: Math.max(3, size[0] * scale) / 2,
		halfD: Math.max(3, (leanDeg === 0 ? size[2] : Math.max(size[2], size[1] * 0.7)) * scale) / 2,
		turn,
		round: isRound(kind),
		last: right || away ? [right, -away] : null,
	};
});

/** The piece that is smallest of those under a place of the plan. */
export function outlineAt(outlines: readonly Outline[], px: number, py: number): Outline | null {
	let best: Outline | null = null;
	for (const o of outlines) {
		const [dx, dy] = [px - o.x, py - o.y];
		const a = Math.abs(dx * Math.cos(o.turn) + dy * Math.sin(o.turn));
		const b = Math.abs(dy * Math.cos(o.turn) - dx * Math.sin(o.turn));
		if (
			a <= Math.max(REACH_PX, o.halfW) &&
			b <= Math.max(REACH_PX, o.halfD) &&
			(!best || o.halfW * o.halfD < best.halfW * best.halfD)
		)
			best = o;
	}
	return best;
}
