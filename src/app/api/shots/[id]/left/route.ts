import { database } from "@/server/database.ts";
import { HttpError, readBody, route } from "@/server/route.ts";
import { blobInfo } from "@/store/blobs.ts";
import { picturedBefore } from "@/store/shots.ts";
import { LeftBody } from "@/wire/contracts.ts";

/** Takes the frame as it stands where an undo leads away. */
export const POST = route<{ id: string }>(async (request, { id }) => {
	const { revision, thumbnail } = await readBody(request, LeftBody);
	if (!(await blobInfo(database(), thumbnail))) throw new HttpError(400, "no-blob", "The thumbnail has not been kept.");
	await picturedBefore(database(), id, revision, thumbnail);
	return Response.json({ revision }, { status: 201 });
});
