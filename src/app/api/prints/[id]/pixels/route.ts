import { pixelsAside } from "@/server/aside.ts";
import { finishedPrint, frameAsked } from "@/server/printFiles.ts";
import { isShown } from "@/server/printPixels.ts";
import { HttpError, route } from "@/server/route.ts";

/**
 * Linear RGBA as half floats for the page, as `printPixels` has them. `clean=1` takes the noise out, `steady=1` its neighbours of a move in, where that has been made; `layer` asks for one of
 * the others, in 0 to 1, or for the light of one source.
 */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = new URL(request.url).searchParams;
	const layer = asked.get("layer") ?? "picture";
	if (!isShown(layer)) throw new HttpError(400, "bad-layer", `There is no layer "${layer.slice(0, 80)}".`);
	const frame = frameAsked(request);
	const steady = asked.get("steady") === "1";
	const print = await finishedPrint(id, frame);
	const pixels = await pixelsAside({ id, layer, clean: asked.get("clean") === "1", steady, frame });
	const lasts = !steady || print.steady !== null;
	return new Response(new Uint8Array(pixels), {
		headers: {
			"Content-Type": "application/octet-stream",
			"Cache-Control": lasts ? "private, max-age=31536000, immutable" : "no-store",
		},
	});
});
