/** Where a delivery lies in the frame, and how it is printed from it. */
import type { Delivery, FramePart } from "../doc/schema.ts";
import { clamp } from "../maths/functions.ts";

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

/** How wide the whole frame would be of which a delivery is the part; null when that is more than can be printed. */
export function frameWidthOf(
	delivery: Pick<Delivery, "ratio" | "share" | "middle" | "widthPx">,
	frameRatio: number,
): number | null {
	const width = Math.round(delivery.widthPx / deliveryArea(delivery, frameRatio).width);
	return width <= MOST_FRAME_PX ? width : null;
}
