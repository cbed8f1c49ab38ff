import { BlobHash } from "@/core/doc/schema.ts";
import { prepareAside } from "@/server/aside.ts";
import { blobResponse } from "@/server/blobs.ts";
import { database } from "@/server/database.ts";
import { HttpError, route } from "@/server/route.ts";
import { preparedSky } from "@/store/skies.ts";

/** The prepared table of a sky picture. */
export const GET = route<{ file: string }>(async (_request, { file }) => {
	const prepared = BlobHash.safeParse(file).success ? await preparedSky(database(), file, prepareAside) : null;
	if (!prepared) throw new HttpError(404, "no-sky", "The file of this sky picture is gone.");
	return blobResponse(prepared, { "Cache-Control": "private, max-age=86400" });
});
