import { BlobHash } from "@/core/doc/schema.ts";
import { database } from "@/server/database.ts";
import { HttpError, route } from "@/server/route.ts";
import { blobChunks, blobInfo } from "@/store/blobs.ts";

export const GET = route<{ hash: string }>(async (_request, { hash }) => {
	const info = BlobHash.safeParse(hash).success ? await blobInfo(database(), hash) : null;
	if (!info) throw new HttpError(404, "no-blob", "There is no such file.");
	const chunks = blobChunks(database(), hash);
	const body = new ReadableStream<Uint8Array>({
		async pull(controller) {
			const { done, value } = await chunks.next();
			if (done) controller.close();
			else controller.enqueue(new Uint8Array(value));
		},
	});
	return new Response(body, {
		headers: { "Content-Type": info.mediaType, "Content-Length": String(info.size), "Cache-Control": "private, max-age=31536000, immutable", "X-Content-Type-Options": "nosniff" },
	});
});
