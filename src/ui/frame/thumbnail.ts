/** The frame as a small picture: to be kept, or to be counted over. */
import { framePlanes } from "../../core/finish/bentLines.ts";
import { finishPicture } from "../../core/finish/finish.ts";
import { characterOf } from "../../core/lens/character.ts";
import { keepPicture } from "../reference/references.ts";
import type { ProofState } from "../stage/messages.ts";
import { shownDocument } from "../store/shotStore.ts";
import { useStudio } from "../store/studio.ts";
import { isLit } from "../view/looks.ts";

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
export async function frameCanvas(width: number): Promise<HTMLCanvasElement | null> {
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
	const { pixels: rgba, part } = proof;
	const planes = [0, 1, 2].map((c) => Float32Array.from({ length: rgba.length / 4 }, (_, i) => rgba[4 * i + c]));
	const shown = framePlanes(planes, proof, part, characterOf(finish));
	const small = { width: Math.min(width, shown.width), height: 0 };
	small.height = Math.max(1, Math.round((small.width * shown.height) / shown.width));
	const means = [0, 1, 2].map(() => new Float32Array(small.width * small.height)) as [
		Float32Array,
		Float32Array,
		Float32Array,
	];
	const counts = new Uint32Array(small.width * small.height);
	for (let y = 0; y < shown.height; y++) {
		const row = Math.floor((y * small.height) / shown.height) * small.width;
		for (let x = 0; x < shown.width; x++) {
			const to = row + Math.floor((x * small.width) / shown.width);
			for (let c = 0; c < 3; c++) means[c][to] += shown.planes[c][y * shown.width + x];
			counts[to]++;
		}
	}
	for (const plane of means) for (let i = 0; i < plane.length; i++) plane[i] /= counts[i] || 1;
	const data = new Uint8ClampedArray(finishPicture(means, small.width, small.height, camera, finish));
	return { data, ...small };
}

/** Pixels of the frame at a width: of the proof where it is shown, else of the working view. Null when nothing is drawn. */
export async function framePixels(width: number): Promise<SmallPicture | null> {
	const { proof, free, look } = useStudio.getState();
	const traced = free || !isLit(look) ? null : proofPicture(proof, width);
	if (traced) return traced;
	const canvas = await frameCanvas(width);
	const pixels = canvas
		?.getContext("2d", { willReadFrequently: true })
		?.getImageData(0, 0, canvas.width, canvas.height);
	return pixels ?? null;
}
