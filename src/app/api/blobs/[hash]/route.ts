import { BlobHash } from "@/core/doc/schema.ts";
import { blobResponse } from "@/server/blobs.ts";
import { HttpError, route } from "@/server/route.ts";

export const GET = route<{ hash: string }>(async (_request, { hash }) => {
	if (!BlobHash.safeParse(hash).success) throw new HttpError(404, "no-blob", "There is no such file.");
	return blobResponse(hash);
});
