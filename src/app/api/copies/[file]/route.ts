import { COPY_WIDTHS } from "@/core/brief/copies.ts";
import { BlobHash } from "@/core/doc/schema.ts";
import { blobResponse } from "@/server/blobs.ts";
import { database } from "@/server/database.ts";
import { HttpError, route } from "@/server/route.ts";
import { copyOf } from "@/store/copies.ts";

/** A scaled copy of a picture: `?width=` one of the widths that are made. */
export const GET = route<{ file: string }>(async (request, { file }) => {
	const width = COPY_WIDTHS.find((w) => String(w) === new URL(request.url).searchParams.get("width"));
	if (!width) throw new HttpError(400, "bad-width", `Copies are ${COPY_WIDTHS.join(", ")} pixels wide.`);
	const copy = BlobHash.safeParse(file).success ? await copyOf(database(), file, width) : null;
	if (!copy) throw new HttpError(404, "no-picture", "There is no such picture.");
	return blobResponse(copy);
});
