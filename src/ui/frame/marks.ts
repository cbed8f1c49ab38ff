/** What marks over the frame are given. */
import type { Point } from "../../core/ground/underPoint.ts";
import type { FrameOfView } from "../../core/lens/camera.ts";

export interface MarkProps {
	/** Size of the frame in pixels, and its enlargement: strokes and words are drawn by `1 / k`. */
	width: number;
	height: number;
	k: number;
	/** What the frame shows: the shot's lens or a free view. */
	view: FrameOfView;
	/** Place of the frame under a pointer, 0 to 1. */
	place: (e: { clientX: number; clientY: number }) => Point;
}
