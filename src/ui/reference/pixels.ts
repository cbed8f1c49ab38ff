/** Pixels of a reference as it is looked at, for palette and values. */
import { adjustPixels, shownSize, toShown } from "../../core/doc/look.ts";
import type { Reference } from "../../core/doc/schema.ts";
import { copyAddress } from "../../wire/contracts.ts";

const LONG_SIDE = 480;

/** Throws an Error for the person when the picture cannot be read. */
export async function referencePixels(reference: Reference): Promise<ImageData> {
	const response = await fetch(copyAddress(reference, 512));
	if (!response.ok) throw new Error(`The picture of "${reference.name}" could not be read.`);
	const bitmap = await createImageBitmap(await response.blob());
	const size = shownSize(reference);
	const scale = Math.min(1, LONG_SIDE / Math.max(size.width, size.height));
	const canvas = new OffscreenCanvas(
		Math.max(1, Math.round(size.width * scale)),
		Math.max(1, Math.round(size.height * scale)),
	);
	const context = canvas.getContext("2d", { willReadFrequently: true });
	if (!context) throw new Error("This browser cannot read a picture's pixels.");
	const o = toShown(reference, [0, 0]);
	const ex = toShown(reference, [1, 0]);
	const ey = toShown(reference, [0, 1]);
	context.setTransform(
		(ex[0] - o[0]) * scale,
		(ex[1] - o[1]) * scale,
		(ey[0] - o[0]) * scale,
		(ey[1] - o[1]) * scale,
		o[0] * scale,
		o[1] * scale,
	);
	context.drawImage(bitmap, 0, 0, reference.widthPx, reference.heightPx);
	bitmap.close();
	const pixels = context.getImageData(0, 0, canvas.width, canvas.height);
	if (reference.look) adjustPixels(pixels.data, reference.look);
	return pixels;
}
