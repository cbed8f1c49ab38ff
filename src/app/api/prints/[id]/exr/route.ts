import { z } from "zod";
import { blobResponse } from "@/server/blobs.ts";
import { finishedPrint, readPrintPlanes } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";
import { exrForOthers } from "../../../../../store/printFiles.ts";

export const dynamic = "force-dynamic";

const flag = z.enum(["0", "1"]).default("0");
const Asked = z.object({ half: flag, places: flag });

async function madeForOthers(id: string, half: boolean, places: boolean): Promise<Uint8Array> {
	const { file, camera } = await readPrintPlanes(id);
	if (!camera) throw new HttpError(409, "no-camera", "This print does not know its camera any more.");
	return exrForOthers(file, camera, { half, places });
}

/** The EXR of a print as it is kept; `half=1` as half floats where they suffice, `places=1` with places and facing. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Asked.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success) throw new HttpError(400, "bad-choice", "half and places are 0 or 1.");
	const half = asked.data.half === "1";
	const places = asked.data.places === "1";
	const name = { "Content-Disposition": `attachment; filename="print-${id}.exr"` };
	if (!half && !places) return blobResponse((await finishedPrint(id)).exr, name);
	return new Response(new Uint8Array(await madeForOthers(id, half, places)), { headers: { "Content-Type": "image/x-exr", ...name } });
});
