/**
 * The server's stream of events, one for all tabs of a browser: whichever tab holds the lock keeps the stream and passes on
 * what it hears; when that one closes, another takes it over. (Browsers allow six connections to a host.)
 */
import { StreamEvent } from "../../wire/contracts.ts";

const NAME = "inquadra-events";

/** Hears events until it is called off. After a stretch in which some may have been missed it hears a gap. */
export function hear(onEvent: (event: StreamEvent) => void): () => void {
	const ending = new AbortController();
	const channel = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel(NAME);
	if (channel) channel.onmessage = ({ data }) => onEvent(data as StreamEvent);
	const keep = () => stream(ending.signal, (event) => (channel?.postMessage(event), onEvent(event)));
	if (channel && typeof navigator !== "undefined" && navigator.locks)
		void navigator.locks.request(NAME, { signal: ending.signal }, keep).catch(() => {});
	else void keep();
	return () => {
		ending.abort();
		channel?.close();
	};
}

/** Keeps a stream until the signal ends. */
function stream(signal: AbortSignal, onEvent: (event: StreamEvent) => void): Promise<void> {
	if (signal.aborted) return Promise.resolve();
	const source = new EventSource("/api/events");
	const read = (text: string) => {
		const event = StreamEvent.safeParse(JSON.parse(text));
		if (event.success) onEvent(event.data);
	};
	source.onmessage = ({ data }) => read(data);
	source.onerror = () => onEvent({ kind: "gap", id: "away" });
	return new Promise((resolve) =>
		signal.addEventListener("abort", () => {
			source.close();
			resolve();
		}),
	);
}
