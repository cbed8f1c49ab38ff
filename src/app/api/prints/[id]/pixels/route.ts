import { z } from "zod";
import { isLight, LAYERS } from "@/core/finish/layers.ts";
import { toHalf } from "@/core/formats/exr.ts";
import { printLayer, printLight, printPixels } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";

const Layer = z.enum(LAYERS);
type Layer = z.infer<typeof Layer>;
/** Words of 16 bits before the pixels. */
const HEAD = 12;

/**
 * Linear RGBA as half floats for the page: six u32 (width, height, where they lie in the whole
 * picture, and its size), then rows from the top. `clean=1` takes the noise
 * out; `layer` asks for one of the others, in 0 to 1, or for the light of one source.
 */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = new URL(request.url).searchParams;
	const wanted = asked.get("layer") ?? "picture";
	const layer = Layer.safeParse(wanted);
	if (!layer.success && !isLight(wanted)) throw new HttpError(400, "bad-layer", `There is no layer "${wanted.slice(0, 80)}".`);
	const picture = !layer.success ? await printLight(id, wanted) : layer.data === "picture" ? await printPixels(id, asked.get("clean") === "1") : null;
	const { width, height, window, rgb } = picture ?? (await printLayer(id, layer.data as Exclude<Layer, "picture">));
	const out = new Uint16Array(HEAD + width * height * 4);
	new Uint32Array(out.buffer, 0, HEAD / 2).set([width, height, window.x, window.y, window.width, window.height]);
	const scale = picture ? 2 ** -picture.print.ev100 : 1;
	for (let i = 0; i < width * height; i++) {
		for (let c = 0; c < 3; c++) out[HEAD + i * 4 + c] = toHalf(rgb[c][i] * scale);
		out[HEAD + i * 4 + 3] = 0x3c00;
	}
	return new Response(new Uint8Array(out.buffer), { headers: { "Content-Type": "application/octet-stream", "Cache-Control": "private, max-age=31536000, immutable" } });
});
