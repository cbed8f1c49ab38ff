import { databaseUrl } from "@/server/database.ts";
import { route } from "@/server/route.ts";
import { listen } from "@/store/database.ts";
import type { StreamEvent } from "@/wire/contracts.ts";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

/** Everything that changes, as server-sent events: ids only. */
export const GET = route(async (request) => {
	const ending = new AbortController();
	request.signal.addEventListener("abort", () => ending.abort());
	const text = new TextEncoder();
	const body = new ReadableStream<Uint8Array>({
		start(controller) {
			const send = (event: StreamEvent) => {
				try {
					controller.enqueue(text.encode(`data: ${JSON.stringify(event)}\n\n`));
				} catch {
					ending.abort();
				}
			};
			send({ kind: "gap", id: "start" });
			const beat = setInterval(() => {
				try {
					controller.enqueue(text.encode(": still here\n\n"));
				} catch {
					ending.abort();
				}
			}, 10_000);
			ending.signal.addEventListener("abort", () => clearInterval(beat));
			void listen(
				databaseUrl(),
				(event) => send((event as StreamEvent) ?? { kind: "gap", id: "again" }),
				ending.signal,
			);
		},
		cancel: () => ending.abort(),
	});
	return new Response(body, {
		headers: {
			"Content-Type": "text/event-stream",
			"Cache-Control": "no-cache, no-transform",
			"X-Accel-Buffering": "no",
		},
	});
});
