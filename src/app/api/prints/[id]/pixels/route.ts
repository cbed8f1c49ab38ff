import { z } from "zod";
import { isLight, LAYERS } from "@/core/finish/layers.ts";
import { toHalf } from "@/core/formats/exrWrite.ts";
import { layerLines, printLines, readPrintPlanes } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";

const Layer = z.enum(LAYERS);
type Layer = z.infer<typeof Layer>;
/** Words of 16 bits before the pixels. */
const HEAD = 16;
/** Longest side that is sent; larger prints are reduced by whole numbers, for graphics memory ends there. */
const MOST_SIDE = 4096;

/**
 * Linear RGBA as half floats for the page: eight u32 (width and height of what is sent, the part of
 * the picture that it shows, the picture's size), then rows from the top. `clean=1` takes the noise
 * out; `layer` asks for one of the others, in 0 to 1, or for the light of one source.
 */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = new URL(request.url).searchParams;
	const wanted = asked.get("layer") ?? "picture";
	const layer = Layer.safeParse(wanted);
	if (!layer.success && !isLight(wanted))
		throw new HttpError(400, "bad-layer", `There is no layer "${wanted.slice(0, 80)}".`);
	const { print, file } = await readPrintPlanes(id);
	const { width, height, window } = file;
	const isPicture = !layer.success || layer.data === "picture";
	const lines = isPicture
		? printLines(file, layer.success ? { clean: asked.get("clean") === "1" } : { light: wanted })
		: layerLines(file, layer.data as Exclude<Layer, "picture">);
	const step = Math.ceil(Math.max(width, height) / MOST_SIDE);
	const [w, h] = [Math.max(1, Math.floor(width / step)), Math.max(1, Math.floor(height / step))];
	const sums = new Float32Array(w * 3);
	const out = new Uint16Array(HEAD + w * h * 4);
	new Uint32Array(out.buffer, 0, HEAD / 2).set([w, h, window.x, window.y, width, height, window.width, window.height]);
	const scale = (isPicture ? 2 ** -print.ev100 : 1) / (step * step);
	for await (const { y, rows, rgb } of lines) {
		for (let line = y; line < Math.min(y + rows, h * step); line++) {
			const from = (line - y) * width;
			if (line % step === 0) sums.fill(0);
			for (let x = 0; x < w * step; x++)
				for (let c = 0; c < 3; c++) sums[Math.floor(x / step) * 3 + c] += rgb[c][from + x];
			if (line % step < step - 1) continue;
			const to = HEAD + Math.floor(line / step) * w * 4;
			for (let x = 0; x < w; x++) {
				for (let c = 0; c < 3; c++) out[to + x * 4 + c] = toHalf(sums[x * 3 + c] * scale);
				out[to + x * 4 + 3] = 0x3c00;
			}
		}
	}
	return new Response(new Uint8Array(out.buffer), {
		headers: { "Content-Type": "application/octet-stream", "Cache-Control": "private, max-age=31536000, immutable" },
	});
});
