/** Asks the worker that looks for edges in a reference. */
import type { Reference } from "../../core/doc/schema.ts";
import type { EdgeSegment, FittedEdge } from "../../core/match/edges.ts";
import type { EdgeFamily } from "../../core/match/families.ts";

export interface EdgeQuestion {
	id: number;
	reference: Reference;
	/** A line to be fitted, in pixels of what is shown; without it families are looked for. */
	fit?: { segment: EdgeSegment; reachPx: number };
}

export interface EdgeAnswer {
	id: number;
	families?: EdgeFamily[];
	fitted?: FittedEdge | null;
	trouble?: string;
}

let worker: Worker | null = null;
let asked = 0;
const waiting = new Map<number, { take: (answer: EdgeAnswer) => void; fail: (error: Error) => void }>();

function ask(question: Omit<EdgeQuestion, "id">): Promise<EdgeAnswer> {
	if (!worker) {
		worker = new Worker(new URL("./edges.worker.ts", import.meta.url), { type: "module" });
		worker.onmessage = ({ data }: MessageEvent<EdgeAnswer>) => {
			const one = waiting.get(data.id);
			waiting.delete(data.id);
			if (data.trouble) one?.fail(new Error(data.trouble));
			else one?.take(data);
		};
		worker.onerror = () => {
			for (const one of waiting.values()) one.fail(new Error("The search for edges broke off. Try it again."));
			waiting.clear();
			worker?.terminate();
			worker = null;
		};
	}
	const id = ++asked;
	const to = worker;
	return new Promise((take, fail) => {
		waiting.set(id, { take, fail });
		to.postMessage({ id, ...question } satisfies EdgeQuestion);
	});
}

/** Families of converging edges, in pixels of what is shown. Throws an Error for the person. */
export const askFamilies = async (reference: Reference): Promise<EdgeFamily[]> =>
	(await ask({ reference })).families ?? [];

/** The line on the edge that it lies along, or null when there is none within reach. */
export const askFit = async (reference: Reference, segment: EdgeSegment, reachPx: number): Promise<FittedEdge | null> =>
	(await ask({ reference, fit: { segment, reachPx } })).fitted ?? null;

/** Leaves a search that is under way. */
export function leaveSearch(): void {
	worker?.onerror?.(new ErrorEvent("left"));
}
