/** Pieces as they lie in the plan, and which of them a pointer is on. */
import type { Piece } from "../../core/doc/schema.ts";
import { outlinesFromAbove } from "../../core/shape/place.ts";
import { keptBy } from "../parts/same.ts";

/** Pixels about a piece that count as it. */
const REACH_PX = 5;
/** A piece smaller than this is drawn as large as this, pixels. */
const LEAST_PX = 3;

/** A piece from above: its foot in the plan, and the outlines of its convex parts about that, in pixels. */
export interface Outline {
	piece: Piece;
	x: number;
	y: number;
	/** Right and down by turns. */
	outlines: [number, number][][];
	/** Box about the outlines: left, top, right, bottom. */
	box: [number, number, number, number];
	/** Where the last of its copies stands, beside its foot. */
	last: [number, number] | null;
}

/** Where places of the world lie in the plan. */
export interface Place {
	at: (x: number, z: number) => { x: number; y: number };
	headingDeg: number;
	scale: number;
}

export const outlineOf = keptBy((piece: Piece, { at, headingDeg, scale }: Place): Outline => {
	const { repeat } = piece;
	const turn = (headingDeg * Math.PI) / 180;
	const [c, s] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
	const outlines = outlinesFromAbove(piece).map((outline) =>
		outline.map(([x, z]): [number, number] => [x * c + z * s, z * c - x * s]),
	);
	const all = outlines.flat();
	const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
	const own = ((piece.headingDeg - headingDeg) * Math.PI) / 180;
	const [right, away] = repeat && repeat.count > 1 ? repeat.step.map((v) => v * (repeat.count - 1) * scale) : [0, 0];
	return {
		piece,
		...at(piece.position[0], piece.position[2]),
		outlines,
		box: [
			Math.min(-LEAST_PX / 2, ...xs),
			Math.min(-LEAST_PX / 2, ...ys),
			Math.max(LEAST_PX / 2, ...xs),
			Math.max(LEAST_PX / 2, ...ys),
		],
		last:
			right || away
				? [right * Math.cos(own) + away * Math.sin(own), right * Math.sin(own) - away * Math.cos(own)]
				: null,
	};
});

const sizeOf = ([l, t, r, b]: Outline["box"]): number => (r - l) * (b - t);

/** The piece that is smallest of those under a place of the plan. */
export function outlineAt(outlines: readonly Outline[], px: number, py: number): Outline | null {
	let best: Outline | null = null;
	for (const o of outlines) {
		const on = o.outlines.some((outline) => distanceTo(outline, px - o.x, py - o.y) <= REACH_PX);
		if (on && (!best || sizeOf(o.box) < sizeOf(best.box))) best = o;
	}
	return best;
}

/** Pixels from a place to a convex outline, 0 inside. */
function distanceTo(outline: readonly [number, number][], x: number, y: number): number {
	let [sides, least] = [0, Infinity];
	for (let i = 0; i < outline.length; i++) {
		const [ax, ay] = outline[i];
		const [bx, by] = outline[(i + 1) % outline.length];
		const [ex, ey, px, py] = [bx - ax, by - ay, x - ax, y - ay];
		sides += Math.sign(ex * py - ey * px);
		const t = Math.max(0, Math.min(1, (px * ex + py * ey) / (ex * ex + ey * ey || 1)));
		least = Math.min(least, Math.hypot(px - t * ex, py - t * ey));
	}
	return outline.length > 2 && Math.abs(sides) === outline.length ? 0 : least;
}
