/** A part of a picture that is printed by itself. */
import type { FramePart } from "../doc/schema.ts";
import type { Tile } from "./picture.ts";

/** Pixels of a picture that a part of the frame covers, at least one; null for the whole. */
export function partInPixels(part: FramePart | null | undefined, width: number, height: number): Tile | null {
	if (!part) return null;
	const span = (from: number, share: number, all: number): [number, number] => {
		const first = Math.min(all - 1, Math.floor(from * all + 1e-6));
		return [first, Math.max(1, Math.min(all, Math.ceil((from + share) * all - 1e-6)) - first)];
	};
	const [x, w] = span(part.x, part.width, width);
	const [y, h] = span(part.y, part.height, height);
	return w === width && h === height ? null : { x, y, width: w, height: h };
}

/** Least side of a part, as a share of the frame. */
export const LEAST_PART = 0.02;

/** A part moved or resized so that it lies in the frame; rounded to a tenth of a percent. */
export function fittedPart(x0: number, y0: number, x1: number, y1: number): FramePart {
	const round = (v: number) => Math.round(v * 1000) / 1000;
	const side = (a: number, b: number): [number, number] => {
		const low = round(Math.min(1 - LEAST_PART, Math.max(0, Math.min(a, b))));
		return [low, round(Math.min(1 - low, Math.max(LEAST_PART, Math.max(a, b) - low)))];
	};
	const [x, width] = side(x0, x1);
	const [y, height] = side(y0, y1);
	return { x, y, width, height };
}
