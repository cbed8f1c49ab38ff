/** What changes, for all event streams of this server: one listening connection to the database, however many there are. */
import { listen } from "../store/database.ts";
import type { StreamEvent } from "../wire/contracts.ts";
import { databaseUrl } from "./database.ts";
import { HttpError } from "./route.ts";

/** More streams than this are refused: browsers keep one for all their tabs. */
const MOST_STREAMS = 200;

type Heard = (event: StreamEvent) => void;

interface Hub {
	all: Set<Heard>;
	ending: AbortController | null;
}

const holder = globalThis as { inquadraEvents?: Hub };

function hub(): Hub {
	holder.inquadraEvents ??= { all: new Set(), ending: null };
	return holder.inquadraEvents;
}

/** Hears events until it is called off. Throws when there are too many streams. */
export function subscribe(heard: Heard): () => void {
	const { all } = hub();
	if (all.size >= MOST_STREAMS)
		throw new HttpError(503, "too-many-streams", "Too many pages listen to this server. Close some of them.");
	all.add(heard);
	if (!hub().ending) {
		const ending = new AbortController();
		hub().ending = ending;
		void listen(
			databaseUrl(),
			(event) => {
				for (const one of [...all]) one((event as StreamEvent) ?? { kind: "gap", id: "again" });
			},
			ending.signal,
		);
	}
	return () => {
		all.delete(heard);
		if (all.size > 0) return;
		hub().ending?.abort();
		hub().ending = null;
	};
}

/** Streams that are open now. */
export const streams = (): number => hub().all.size;
