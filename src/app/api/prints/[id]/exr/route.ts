import { createReadStream } from "node:fs";
import { rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { Readable } from "node:stream";
import { z } from "zod";
import { blobResponse } from "@/server/blobs.ts";
import { finishedPrint, frameAsked, readPrintPlanes } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";
import { exrForOthers } from "@/store/printFiles.ts";
import { temporaryFolder } from "@/store/temporary.ts";

export const dynamic = "force-dynamic";

const flag = z.enum(["0", "1"]).default("0");
const Asked = z.object({ half: flag, places: flag });

/** A file made for others, handed out from a folder that goes when it has been read. */
async function madeForOthers(
	id: string,
	frame: number | null,
	half: boolean,
	places: boolean,
	headers: Record<string, string>,
): Promise<Response> {
	const { file, camera } = await readPrintPlanes(id, frame);
	if (!camera) throw new HttpError(409, "no-camera", "This print does not know its camera any more.");
	const folder = await temporaryFolder();
	const drop = () => rm(folder, { recursive: true, force: true });
	try {
		const path = join(folder, "print.exr");
		await exrForOthers(path, file, camera, { half, places });
		const { size } = await stat(path);
		const stream = createReadStream(path).once("close", drop);
		return new Response(Readable.toWeb(stream) as ReadableStream, {
			headers: { "Content-Type": "image/x-exr", "Content-Length": String(size), ...headers },
		});
	} catch (error) {
		await drop();
		throw error;
	}
}

/** The EXR of a print as it is kept; `half=1` as half floats where they suffice, `places=1` with places and facing. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Asked.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success) throw new HttpError(400, "bad-choice", "half and places are 0 or 1.");
	const half = asked.data.half === "1";
	const places = asked.data.places === "1";
	const frame = frameAsked(request);
	const number = frame === null ? "" : `_${String(frame).padStart(4, "0")}`;
	const name = { "Content-Disposition": `attachment; filename="print-${id}${number}.exr"` };
	if (!half && !places) return blobResponse((await finishedPrint(id, frame)).exr, name);
	return madeForOthers(id, frame, half, places, name);
});
