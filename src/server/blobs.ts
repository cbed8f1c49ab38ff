/** Hands blobs out piece by piece. */
import { blobChunks, blobInfo } from "../store/blobs.ts";
import { database } from "./database.ts";
import { HttpError } from "./route.ts";

export async function blobResponse(hash: string, headers: Record<string, string> = {}): Promise<Response> {
	const info = await blobInfo(database(), hash);
	if (!info) throw new HttpError(404, "no-blob", "There is no such file.");
	const chunks = blobChunks(database(), hash);
	const body = new ReadableStream<Uint8Array>({
		async pull(controller) {
			const { done, value } = await chunks.next();
			if (done) controller.close();
			else controller.enqueue(new Uint8Array(value));
		},
	});
	const { mediaType, size } = info;
	return new Response(body, {
		headers: {
			"Content-Type": mediaType,
			"Content-Length": String(size),
			"Cache-Control": "private, max-age=31536000, immutable",
			"X-Content-Type-Options": "nosniff",
			...headers,
		},
	});
}
