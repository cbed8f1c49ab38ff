import { z } from "zod";
import { VIDEO_KINDS } from "@/core/doc/records.ts";
import { blobResponse } from "@/server/blobs.ts";
import { database } from "@/server/database.ts";
import { HttpError, readBody, route } from "@/server/route.ts";
import { readPrint } from "@/store/prints.ts";
import { readShot } from "@/store/shots.ts";
import { deleteVideo, listVideos, orderVideo } from "@/store/videos.ts";

export const dynamic = "force-dynamic";

const Kind = z.enum(VIDEO_KINDS);
const VideoBody = z.object({ kind: Kind, clean: z.boolean().default(true), steady: z.boolean().default(false) });

/** Orders a video of the frames that are done, with the finish that the shot has now. */
export const POST = route<{ id: string }>(async (request, { id }) => {
	const { kind, ...light } = await readBody(request, VideoBody);
	const print = await readPrint(database(), id);
	if (!print) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	if (!print.sequence?.done) throw new HttpError(409, "no-frames", "No frame of this print is done yet.");
	const shot = await readShot(database(), print.shotId);
	await orderVideo(database(), id, kind, shot.document, light);
	return Response.json({ videos: await listVideos(database(), id) }, { status: 201 });
});

/** The video of a kind as it was made last. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const kind = Kind.safeParse(new URL(request.url).searchParams.get("kind"));
	if (!kind.success) throw new HttpError(400, "bad-kind", `Videos are ${VIDEO_KINDS.join(" or ")}.`);
	const video = (await listVideos(database(), id)).find((v) => v.kind === kind.data && v.blob);
	if (!video?.blob) throw new HttpError(404, "no-video", "This video has not been made.");
	return blobResponse(video.blob, { "Content-Disposition": `attachment; filename="move-${id}.${kind.data}"` });
});

/** Calls off a video, or takes it away. */
export const DELETE = route<{ id: string }>(async (request, { id }) => {
	const video = new URL(request.url).searchParams.get("video") ?? "";
	const known = (await listVideos(database(), id)).some((v) => v.id === video);
	if (!known || !(await deleteVideo(database(), video)))
		throw new HttpError(404, "no-video", "There is no such video.");
	return Response.json({ deleted: video });
});
