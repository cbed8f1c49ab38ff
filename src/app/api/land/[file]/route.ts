import { BlobHash } from "@/core/doc/schema.ts";
import { landPictureAside } from "@/server/aside.ts";
import { blobResponse } from "@/server/blobs.ts";
import { database } from "@/server/database.ts";
import { HttpError, route } from "@/server/route.ts";
import { preparedLandPicture } from "@/store/landPictures.ts";
import { LandPictureAsWord } from "@/wire/contracts.ts";

/** What is read of a picture of land. */
export const GET = route<{ file: string }>(async (request, { file }) => {
	const as = LandPictureAsWord.safeParse(new URL(request.url).searchParams.get("as"));
	const known = as.success && BlobHash.safeParse(file).success;
	const prepared = known ? await preparedLandPicture(database(), file, as.data, landPictureAside) : null;
	if (!prepared) throw new HttpError(404, "no-land-picture", "The file of this land picture is gone.");
	return blobResponse(prepared, { "Cache-Control": "private, max-age=86400" });
});
