/** Where a delivery lies in the frame, and how it is printed from it. */
import type { Camera, Delivery, FramePart } from "../doc/schema.ts";
import { clamp } from "../maths/functions.ts";
import { usedFilm } from "./camera.ts";

/** The area of a delivery as shares of a frame of a ratio; it never reaches beyond it. */
export function deliveryArea(
	{ ratio, share, middle }: Pick<Delivery, "ratio" | "share" | "middle">,
	frameRatio: number,
): FramePart {
	const width = share * Math.min(1, ratio / frameRatio);
	const height = share * Math.min(1, frameRatio / ratio);
	return {
		x: clamp(middle[0] - width / 2, 0, 1 - width),
		y: clamp(middle[1] - height / 2, 0, 1 - height),
		width,
		height,
	};
}

/** Widest frame that is traced for a delivery. */
export const MOST_FRAME_PX = 16_384;

/**
 * How a delivery is printed: how wide the whole frame is of which it is a part, and that part, whole pixels of it, so that its
 * picture has its own size exactly. Null when the frame would be wider than can be printed.
 */
export function deliveryOrder(
	delivery: Pick<Delivery, "ratio" | "share" | "middle" | "widthPx">,
	{ film, ratio }: Pick<Camera, "film" | "ratio">,
): { widthPx: number; part: FramePart } | null {
	const area = deliveryArea(delivery, ratio);
	const used = usedFilm(film, ratio);
	const width = delivery.widthPx;
	const height = Math.max(1, Math.round(width / delivery.ratio));
	const heightOf = (w: number) => Math.max(1, Math.round((w * used.heightMm) / used.widthMm));
	let whole = Math.max(width, Math.round(width / area.width));
	// Rounded to whole pixels the frame may be a line too low for it.
	while (heightOf(whole) < height) whole++;
	if (whole > MOST_FRAME_PX) return null;
	const high = heightOf(whole);
	const x = clamp(Math.round(area.x * whole), 0, whole - width);
	const y = clamp(Math.round((area.y + area.height / 2) * high - height / 2), 0, high - height);
	return { widthPx: whole, part: { x: x / whole, y: y / high, width: width / whole, height: height / high } };
}
