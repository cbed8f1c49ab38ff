import { subscribe } from "@/server/events.ts";
import { route } from "@/server/route.ts";
import type { StreamEvent } from "@/wire/contracts.ts";

export const runtime = "nodejs";
export const dynamic = "force-dynamic";

const BEAT_MS = 10_000;

/** Everything that changes, as server-sent events: ids only. */
export const GET = route(async (request) => {
	const text = new TextEncoder();
	let end = () => {};
	const body = new ReadableStream<Uint8Array>({
		start(controller) {
			const write = (line: string) => {
				try {
					controller.enqueue(text.encode(line));
				} catch {
					end();
				}
			};
			const send = (event: StreamEvent) => write(`data: ${JSON.stringify(event)}\n\n`);
			const stop = subscribe(send);
			const beat = setInterval(() => write(": still here\n\n"), BEAT_MS);
			end = () => {
				clearInterval(beat);
				stop();
			};
			send({ kind: "gap", id: "start" });
			// It may have been closed before anything listened for that.
			if (request.signal.aborted) end();
			else request.signal.addEventListener("abort", () => end());
		},
		cancel: () => end(),
	});
	return new Response(body, {
		headers: {
			"Content-Type": "text/event-stream",
			"Cache-Control": "no-cache, no-transform",
			"X-Accel-Buffering": "no",
		},
	});
});
