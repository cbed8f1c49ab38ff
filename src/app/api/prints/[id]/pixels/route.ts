import { toHalf } from "@/core/formats/exr.ts";
import { printPixels } from "@/server/printFiles.ts";
import { route } from "@/server/route.ts";

/** Linear RGBA as half floats for the page: two u32 (width, height), then rows from the top. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const clean = new URL(request.url).searchParams.get("clean") === "1";
	const { print, width, height, rgb } = await printPixels(id, clean);
	const out = new Uint16Array(4 + width * height * 4);
	new Uint32Array(out.buffer, 0, 2).set([width, height]);
	const scale = 2 ** -print.ev100;
	for (let i = 0; i < width * height; i++) {
		for (let c = 0; c < 3; c++) out[4 + i * 4 + c] = toHalf(rgb[c][i] * scale);
		out[4 + i * 4 + 3] = 0x3c00;
	}
	return new Response(new Uint8Array(out.buffer), { headers: { "Content-Type": "application/octet-stream", "Cache-Control": "private, max-age=31536000, immutable" } });
});
