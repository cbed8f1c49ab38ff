import { database } from "@/server/database.ts";
import { checkPicture, checkPictureHead } from "@/server/pictures.ts";
import { readBytes, route } from "@/server/route.ts";
import { putBlob } from "@/store/blobs.ts";
import { inTransaction } from "@/store/database.ts";
import { type KeptPicture, MOST_BYTES } from "@/wire/contracts.ts";

/** Takes the bytes of a picture and keeps them. */
export const POST = route(async (request) => {
	const picture = await checkPicture(await readBytes(request, MOST_BYTES, checkPictureHead));
	const blob = await inTransaction(database(), (client) => putBlob(client, picture.data, picture.mediaType));
	const kept: KeptPicture = { blob, widthPx: picture.widthPx, heightPx: picture.heightPx };
	return Response.json(kept, { status: 201 });
});
