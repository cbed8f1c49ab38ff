import { z } from "zod";
import { isLight, LAYERS } from "@/core/finish/layers.ts";
import { toHalf } from "@/core/formats/exr.ts";
import { printLayer, printLight, printPixels } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";

const Layer = z.enum(LAYERS);
type Layer = z.infer<typeof Layer>;
/** Words of 16 bits before the pixels. */
const HEAD = 16;
/** Longest side that is sent; larger prints are reduced by whole numbers, for graphics memory ends there. */
const MOST_SIDE = 4096;

function meanOf(plane: Float32Array, width: number, x: number, y: number, step: number): number {
	if (step === 1) return plane[y * width + x];
	let sum = 0;
	for (let j = 0; j < step; j++) for (let i = 0; i < step; i++) sum += plane[(y + j) * width + x + i];
	return sum;
}

/**
 * Linear RGBA as half floats for the page: eight u32 (width and height of what is sent, the part of
 * the picture that it shows, the picture's size), then rows from the top. `clean=1` takes the noise
 * out; `layer` asks for one of the others, in 0 to 1, or for the light of one source.
 */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = new URL(request.url).searchParams;
	const wanted = asked.get("layer") ?? "picture";
	const layer = Layer.safeParse(wanted);
	if (!layer.success && !isLight(wanted)) throw new HttpError(400, "bad-layer", `There is no layer "${wanted.slice(0, 80)}".`);
	const picture = !layer.success ? await printLight(id, wanted) : layer.data === "picture" ? await printPixels(id, asked.get("clean") === "1") : null;
	const { width, height, window, rgb } = picture ?? (await printLayer(id, layer.data as Exclude<Layer, "picture">));
	const step = Math.ceil(Math.max(width, height) / MOST_SIDE);
	const [w, h] = [Math.max(1, Math.floor(width / step)), Math.max(1, Math.floor(height / step))];
	const out = new Uint16Array(HEAD + w * h * 4);
	new Uint32Array(out.buffer, 0, HEAD / 2).set([w, h, window.x, window.y, width, height, window.width, window.height]);
	const scale = (picture ? 2 ** -picture.print.ev100 : 1) / (step * step);
	for (let y = 0; y < h; y++) {
		for (let x = 0; x < w; x++) {
			const to = HEAD + (y * w + x) * 4;
			for (let c = 0; c < 3; c++) out[to + c] = toHalf(meanOf(rgb[c], width, x * step, y * step, step) * scale);
			out[to + 3] = 0x3c00;
		}
	}
	return new Response(new Uint8Array(out.buffer), { headers: { "Content-Type": "application/octet-stream", "Cache-Control": "private, max-age=31536000, immutable" } });
});
