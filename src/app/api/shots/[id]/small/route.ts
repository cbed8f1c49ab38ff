import { joined, SmallFrameError, unpackSmall } from "@/core/study/smallFrame.ts";
import { database } from "@/server/database.ts";
import { HttpError, readBytes, route } from "@/server/route.ts";
import { readStanding } from "@/store/shots.ts";
import { keepSmall, listSmall } from "@/store/smallFrames.ts";

export const dynamic = "force-dynamic";

const MOST_BYTES = 1024 * 1024;

/** The small frames of the shot's move that are kept, packed, each after its length. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
	await readStanding(database(), id);
	return new Response(new Uint8Array(joined(await listSmall(database(), id))), {
		headers: { "Content-Type": "application/octet-stream", "Cache-Control": "no-store" },
	});
});

/** Keeps one, packed, in the place of that of the same frame. */
export const PUT = route<{ id: string }>(async (request, { id }) => {
	const packed = await readBytes(request, MOST_BYTES);
	const { frame, sign } = read(packed);
	if (!(await keepSmall(database(), id, { frame, sign }, packed))) {
		await readStanding(database(), id);
		throw new HttpError(400, "bad-frame", `The move of this shot has no frame ${frame}.`);
	}
	return Response.json({ frame, sign });
});

function read(packed: Uint8Array): { frame: number; sign: string } {
	try {
		return unpackSmall(packed);
	} catch (error) {
		throw error instanceof SmallFrameError ? new HttpError(400, "bad-frame", error.message) : error;
	}
}
