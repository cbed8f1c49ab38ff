import { database } from "@/server/database.ts";
import { HttpError, readBody, route } from "@/server/route.ts";
import { blobInfo } from "@/store/blobs.ts";
import { makeCheckpoint } from "@/store/shots.ts";
import { CheckpointBody } from "@/wire/contracts.ts";

export const POST = route<{ id: string }>(async (request, { id }) => {
	const { name, thumbnail } = await readBody(request, CheckpointBody);
	if (thumbnail && !(await blobInfo(database(), thumbnail)))
		throw new HttpError(400, "no-blob", "The thumbnail has not been kept.");
	return Response.json(await makeCheckpoint(database(), id, name, thumbnail), { status: 201 });
});
