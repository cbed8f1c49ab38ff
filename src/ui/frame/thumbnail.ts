/** The frame as a small picture: to be kept, or to be counted over. */
import { finishPicture } from "../../core/finish/finish.ts";
import { keepPicture } from "../reference/references.ts";
import type { ProofState } from "../stage/messages.ts";
import { shownDocument } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";

export interface SmallPicture {
	data: Uint8ClampedArray;
	width: number;
	height: number;
}

/** The frame as a kept thumbnail; null when there is nothing to be drawn. */
export async function frameThumbnail(): Promise<string | null> {
	const small = await frameCanvas(480);
	const blob = small && (await new Promise<Blob | null>((r) => small.toBlob(r, "image/png")));
	return blob ? (await keepPicture(blob)).blob : null;
}

/** The frame as it is drawn now, without its margin, on a canvas of a width. */
async function frameCanvas(width: number): Promise<HTMLCanvasElement | null> {
	const picture = document.querySelector<HTMLElement>("[data-testid=picture]");
	const canvas = picture?.querySelector("canvas");
	if (!canvas) return null;
	const bleed = Number(picture?.dataset.bleed);
	const [w, h] = [canvas.width - 2 * bleed, canvas.height - 2 * bleed];
	const small = document.createElement("canvas");
	small.width = width;
	small.height = Math.max(1, Math.round((width * h) / w));
	// By way of a bitmap, so that the page does not wait for the graphics while it draws.
	const bitmap = await createImageBitmap(canvas, bleed, bleed, w, h, {
		resizeWidth: small.width,
		resizeHeight: small.height,
		resizeQuality: "medium",
	});
	small.getContext("2d", { willReadFrequently: true })?.drawImage(bitmap, 0, 0);
	bitmap.close();
	return small;
}

/** The proof, reduced to a width by means and finished; null when there is none yet. */
function proofPicture(proof: ProofState | null, width: number): SmallPicture | null {
	if (!proof?.pixels || proof.coarse || proof.width < 8) return null;
	const { camera, finish } = shownDocument();
	const small = { width: Math.min(width, proof.width), height: 0 };
	small.height = Math.max(1, Math.round((small.width * proof.height) / proof.width));
	const planes = [0, 1, 2].map(() => new Float32Array(small.width * small.height)) as [
		Float32Array,
		Float32Array,
		Float32Array,
	];
	const counts = new Uint32Array(small.width * small.height);
	for (let y = 0; y < proof.height; y++) {
		const row = Math.floor((y * small.height) / proof.height) * small.width;
		for (let x = 0; x < proof.width; x++) {
			const to = row + Math.floor((x * small.width) / proof.width);
			const from = 4 * (y * proof.width + x);
			for (let c = 0; c < 3; c++) planes[c][to] += proof.pixels[from + c];
			counts[to]++;
		}
	}
	for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i] /= counts[i] || 1;
	const data = new Uint8ClampedArray(finishPicture(planes, small.width, small.height, camera.ev100, finish));
	return { data, ...small };
}

/** Pixels of the frame at a width: of the proof where it is shown, else of the working view. Null when nothing is drawn. */
export async function framePixels(width: number): Promise<SmallPicture | null> {
	const { proof, free, look } = useStudio.getState();
	const traced = free || look !== "surfaces" ? null : proofPicture(proof, width);
	if (traced) return traced;
	const canvas = await frameCanvas(width);
	const pixels = canvas
		?.getContext("2d", { willReadFrequently: true })
		?.getImageData(0, 0, canvas.width, canvas.height);
	return pixels ?? null;
}
