/** Pieces as they lie in the plan, and which of them a pointer is on. */
import type { Piece } from "../../core/doc/schema.ts";
import { copiesInWorld, outlinesFromAbove } from "../../core/shape/place.ts";
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
	/** Where all of its copies stand beside its foot, itself among them, and how its outlines are turned and stretched for them. */
	copies: { x: number; y: number; size: number; turned: Turned }[];
}

/** Where places of the world lie in the plan. */
export interface Place {
	at: (x: number, z: number) => { x: number; y: number };
	headingDeg: number;
	scale: number;
}

/** What a canvas is to turn by, as it takes it: right, down and shift of each axis. */
type Turned = [number, number, number, number, number, number];

/** A turn clockwise, a size, and a mirror across the right of what looks along a heading; degrees. */
function turnedBy(turnDeg: number, size: number, mirrorDeg: number | null): Turned {
	const turn = (turnDeg * Math.PI) / 180;
	const [c, s] = [Math.cos(turn) * size, Math.sin(turn) * size];
	if (mirrorDeg === null) return [c, s, -s, c, 0, 0];
	const twice = (2 * mirrorDeg * Math.PI) / 180;
	const [mc, ms] = [-Math.cos(twice), -Math.sin(twice)];
	return [c * mc - s * ms, s * mc + c * ms, c * ms + s * mc, s * ms - c * mc, 0, 0];
}

export const outlineOf = keptBy((piece: Piece, { at, headingDeg, scale }: Place): Outline => {
	const turn = (headingDeg * Math.PI) / 180;
	const [c, s] = [Math.cos(turn) * scale, Math.sin(turn) * scale];
	const outlines = outlinesFromAbove(piece).map((outline) =>
		outline.map(([x, z]): [number, number] => [x * c + z * s, z * c - x * s]),
	);
	const all = outlines.flat();
	const [xs, ys] = [all.map((p) => p[0]), all.map((p) => p[1])];
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
		copies: copiesInWorld(piece).map(({ x, z, size, turnDeg, mirrored }) => ({
			x: x * c + z * s,
			y: z * c - x * s,
			size,
			turned: turnedBy(turnDeg, size, mirrored ? piece.headingDeg - headingDeg : null),
		})),
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
