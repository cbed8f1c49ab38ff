/** Linear pixels of a finished print for the page. Made in a thread of its own: of a large print that takes seconds. */
import { isLight, LAYERS, type Layer } from "../core/finish/layers.ts";
import { lightToHalf, MOST_HALF } from "../core/formats/exrWrite.ts";
import { layerLines, printLines, readPrintPlanes, scaleOf } from "./printFiles.ts";

export interface PixelsAsked {
	id: string;
	/** One of the layers, or the light of one source by its name. */
	layer: string;
	/** The picture without its noise. */
	clean: boolean;
	/** With its neighbours of a move taken in, where that has been made. */
	steady: boolean;
	/** Which frame of a move; null for a still. */
	frame: number | null;
}

/** Words of 16 bits before the pixels. */
const HEAD = 20;
/** Longest side that is sent; larger prints are reduced by whole numbers, for graphics memory ends there. */
const MOST_SIDE = 4096;

const ONE = 0x3c00;

export const isShown = (layer: string): boolean => (LAYERS as readonly string[]).includes(layer) || isLight(layer);

/**
 * RGBA as half floats: eight i32 (width and height of what is sent, the part of the picture that it shows, which may reach beyond
 * it, the picture's size), two f32 (of the layer of depth: metres at its white and at its darkest grey), then rows from the top. The picture is exposed by its shot's exposure, other layers lie in 0 to 1.
 */
export async function printPixels({ id, layer, clean, steady, frame }: PixelsAsked): Promise<Uint16Array<ArrayBuffer>> {
	const { print, file } = await readPrintPlanes(id, frame, steady);
	const { width, height, window } = file;
	const light = isLight(layer);
	const isPicture = light || layer === "picture";
	const scaled = await scaleOf(file, isPicture ? "picture" : (layer as Layer));
	const lines = isPicture
		? printLines(file, { clean, ...(light && { light: layer }) })
		: layerLines(file, layer as Exclude<Layer, "picture">, scaled);
	// Files of half floats of earlier days hold infinity where they could hold no more.
	const most = file.halves.includes("R") ? MOST_HALF : Number.POSITIVE_INFINITY;
	const step = Math.ceil(Math.max(width, height) / MOST_SIDE);
	const [w, h] = [Math.max(1, Math.floor(width / step)), Math.max(1, Math.floor(height / step))];
	const sums = new Float32Array(w * 3);
	const out = new Uint16Array(HEAD + w * h * 4);
	new Int32Array(out.buffer, 0, HEAD / 2).set([w, h, window.x, window.y, width, height, window.width, window.height]);
	if (layer === "depth") new Float32Array(out.buffer, 32, 2).set(scaled.depth);
	const scale = (isPicture ? 2 ** -print.ev100 : 1) / (step * step);
	for await (const { y, rows, rgb } of lines) {
		for (let line = y; line < Math.min(y + rows, h * step); line++) {
			const from = (line - y) * width;
			if (line % step === 0) sums.fill(0);
			for (let x = 0; x < w * step; x++)
				for (let c = 0; c < 3; c++) sums[Math.floor(x / step) * 3 + c] += Math.min(most, rgb[c][from + x]);
			if (line % step < step - 1) continue;
			const to = HEAD + Math.floor(line / step) * w * 4;
			for (let x = 0; x < w; x++) {
				for (let c = 0; c < 3; c++) out[to + x * 4 + c] = lightToHalf(sums[x * 3 + c] * scale);
				out[to + x * 4 + 3] = ONE;
			}
		}
	}
	return out;
}
