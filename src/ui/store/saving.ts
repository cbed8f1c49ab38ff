/** Sends edits to the server one after the other, keeps them while it is away, and takes newer edits from elsewhere. */
import type { Edit } from "../../core/doc/edits.ts";
import type { HeadMove, ShotState } from "../../core/doc/records.ts";
import type { ErrorBody } from "../../wire/contracts.ts";

export interface Pending {
	clientId: string;
	edit?: Edit;
	move?: HeadMove;
}

/** An answer of the server that says no. */
export class Refused extends Error {
	readonly status: number;
	readonly code: string;
	readonly state: unknown;
	constructor(status: number, body: ErrorBody) {
		super(body.error?.message ?? `The server answered ${status}.`);
		this.status = status;
		this.code = body.error?.code ?? "failed";
		this.state = body.error?.state;
	}
}

/** Calls the server. Throws {@link Refused} for its errors, TypeError when it is away. */
export async function call<T>(path: string, body?: unknown, method = body === undefined ? "GET" : "POST"): Promise<T> {
	const response = await fetch(path, {
		method,
		...(body === undefined ? {} : { body: JSON.stringify(body), headers: { "Content-Type": "application/json" } }),
	});
	if (!response.ok)
		throw new Refused(
			response.status,
			await response
				.json()
				.catch(() => ({ error: { code: "failed", message: `The server answered ${response.status}.` } })),
		);
	return (await response.json()) as T;
}

export type Saved = Omit<ShotState, "document"> & { document?: ShotState["document"] };

/** Sends one pending change made on top of a sequence. */
export function sendPending(shotId: string, p: Pending, sequence: number): Promise<Saved> {
	const body = { clientId: p.clientId, sequence, ...(p.edit ? { edit: p.edit } : { move: p.move }) };
	return call<Saved>(`/api/shots/${shotId}/${p.edit ? "edits" : "head"}`, body);
}

const keyOf = (shotId: string) => `inquadra-pending-${shotId}`;

/** Unsaved changes survive a reload of the page. */
export function keepPending(shotId: string, pending: Pending[]): void {
	try {
		if (pending.length) localStorage.setItem(keyOf(shotId), JSON.stringify(pending));
		else localStorage.removeItem(keyOf(shotId));
	} catch {
		// a full or forbidden local store must not stop the work; the server has all but the newest
	}
}

export function keptPending(shotId: string): Pending[] {
	try {
		return JSON.parse(localStorage.getItem(keyOf(shotId)) ?? "[]") as Pending[];
	} catch {
		return [];
	}
}
