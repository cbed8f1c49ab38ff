import { database } from "@/server/database.ts";
import { clipType } from "@/server/pictures.ts";
import { readBytes, route } from "@/server/route.ts";
import { putBlob } from "@/store/blobs.ts";
import { inTransaction } from "@/store/database.ts";
import { MOST_BYTES } from "@/wire/contracts.ts";

/** Takes the bytes of a clip and keeps them. */
export const POST = route(async (request) => {
	const data = await readBytes(request, MOST_BYTES, clipType);
	const mediaType = clipType(data);
	const blob = await inTransaction(database(), (client) => putBlob(client, data, mediaType));
	return Response.json({ blob }, { status: 201 });
});
