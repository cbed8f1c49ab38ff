/** The frame as a small picture, kept; null when there is nothing to be drawn. */
import { keepPicture } from "../references.ts";

export async function frameThumbnail(): Promise<string | null> {
	const small = frameCanvas(480);
	const blob = small && (await new Promise<Blob | null>((r) => small.toBlob(r, "image/png")));
	return blob ? (await keepPicture(blob)).blob : null;
}

/** The frame as it is drawn now, without its margin, on a canvas of a width. */
export function frameCanvas(width: number): HTMLCanvasElement | null {
	const picture = document.querySelector<HTMLElement>("[data-testid=picture]");
	const canvas = picture?.querySelector("canvas");
	if (!canvas) return null;
	const small = document.createElement("canvas");
	const bleed = Number(picture?.dataset.bleed);
	const [w, h] = [canvas.width - 2 * bleed, canvas.height - 2 * bleed];
	small.width = width;
	small.height = Math.max(1, Math.round((width * h) / w));
	small.getContext("2d", { willReadFrequently: true })?.drawImage(canvas, bleed, bleed, w, h, 0, 0, small.width, small.height);
	return small;
}
