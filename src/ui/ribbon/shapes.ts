/** Pieces as they stand in the ribbon: distance to the right, height in the frame upwards. */
import type { Piece } from "../../core/doc/schema.ts";
import type { FrameOfView } from "../../core/lens/camera.ts";
import type { InFrame } from "../../core/shape/inFrame.ts";
import type { Standing } from "../../core/shape/place.ts";
import { keptInFrame } from "../frame/geometry.ts";
import { type Span, xOf } from "./scale.ts";

/** Pixels above and below the frame's height in the ribbon: for the words, and for the distances. */
const TOP = 24;
export const FOOT = 24;
/** Pixels about a shape that count as it. */
const REACH_PX = 4;

/** A piece in the ribbon: its box, and the heights of its near and of its far half. */
export interface Shape {
	piece: Piece;
	box: InFrame;
	x0: number;
	x1: number;
	y0: number;
	y1: number;
	/** Top and foot of its near and of its far half. */
	near: [number, number];
	far: [number, number];
}

/** What a shape depends on besides its piece. */
export interface Place extends Standing {
	view: FrameOfView;
	span: Span;
	width: number;
	height: number;
}

/** Height in the ribbon of a height in the frame, 0 at its top. */
export const yOf = (v: number, height: number): number =>
	TOP + Math.min(1.04, Math.max(-0.06, v)) * (height - FOOT - TOP);

const held = new WeakMap<Piece, { box: InFrame; by: unknown[]; shape: Shape }>();

/** A piece in the ribbon; null when nothing of it is in the frame. Kept while it lies there as it did. */
export function shapeOf(piece: Piece, place: Place): Shape | null {
	const { view, span, width, height } = place;
	const box = keptInFrame(piece, place, view);
	if (!box) return null;
	const by = [span, width, height];
	const known = held.get(piece);
	if (known?.box === box && known.by.every((v, i) => v === by[i])) return known.shape;
	const y = (v: number) => yOf(v, height);
	const x0 = xOf(box.nearM, span, width);
	const y0 = y(box.box.y0);
	const shape: Shape = {
		piece,
		box,
		x0,
		x1: Math.max(x0 + 3, xOf(box.farM, span, width)),
		y0,
		y1: Math.max(y0 + 3, y(box.box.y1)),
		near: [y(box.near[0]), y(box.near[1])],
		far: [y(box.far[0]), y(box.far[1])],
	};
	held.set(piece, { box, by, shape });
	return shape;
}

/** The smallest of the shapes under a place: small ones lie in front of large ones. */
export function shapeAt(shapes: readonly Shape[], px: number, py: number): Shape | null {
	let best: Shape | null = null;
	const size = (s: Shape) => (s.x1 - s.x0) * (s.y1 - s.y0);
	for (const s of shapes) {
		const on = px > s.x0 - REACH_PX && px < s.x1 + REACH_PX && py > s.y0 - REACH_PX && py < s.y1 + REACH_PX;
		if (on && (!best || size(s) < size(best))) best = s;
	}
	return best;
}
