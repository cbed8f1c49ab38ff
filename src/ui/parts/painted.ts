/** Canvases that many small shapes are painted on. */

/**
 * The emptied context of a canvas, one unit a CSS pixel, its pixels as fine as the screen's. Painted where the page is:
 * thousands of small shapes take a graphics processor longer, and it may be busy with the frame.
 */
export function painted(
	canvas: HTMLCanvasElement | null,
	width: number,
	height: number,
): CanvasRenderingContext2D | null {
	const context = canvas?.getContext("2d", { willReadFrequently: true });
	if (!canvas || !context) return null;
	const ratio = window.devicePixelRatio || 1;
	const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
	if (canvas.width !== w || canvas.height !== h) {
		canvas.width = w;
		canvas.height = h;
	}
	context.setTransform(ratio, 0, 0, ratio, 0, 0);
	context.clearRect(0, 0, width, height);
	return context;
}
