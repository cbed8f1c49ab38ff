/**
 * The wrapper of every route: who may call, what may come in, and how errors leave. A request must come from this
 * machine's own page: its Host is a loopback name, and an Origin, when there is one, is the same host.
 */
import { z } from "zod";
import { EditError } from "../core/doc/edits.ts";
import { PictureFileError } from "../core/formats/exr.ts";
import { isAway } from "../store/database.ts";
import { NoShotError, StaleError } from "../store/shots.ts";

export class HttpError extends Error {
	readonly status: number;
	readonly code: string;
	constructor(status: number, code: string, message: string) {
		super(message);
		this.status = status;
		this.code = code;
	}
}

const MOST_JSON = 8 * 1024 * 1024;

const reply = (status: number, code: string, message: string, more: object = {}) =>
	Response.json({ error: { code, message, ...more } }, { status });

function checkCaller(request: Request): void {
	const host = request.headers.get("host") ?? "";
	const name = host.replace(/:\d+$/, "");
	if (!["127.0.0.1", "localhost", "[::1]"].includes(name))
		throw new HttpError(403, "wrong-host", `This server answers on this machine only, not as "${host}".`);
	const origin = request.headers.get("origin");
	if (origin !== null && origin !== `http://${host}`)
		throw new HttpError(403, "wrong-origin", `A page of "${origin}" may not use this server.`);
}

/** The body as JSON that fits a schema. */
export async function readBody<T extends z.ZodType>(request: Request, schema: T): Promise<z.infer<T>> {
	const bytes = await readBytes(request, MOST_JSON);
	let value: unknown;
	try {
		value = JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(bytes));
	} catch {
		throw new HttpError(400, "bad-json", "The body of the request is not JSON.");
	}
	const r = schema.safeParse(value);
	if (r.success) return r.data;
	const issue = r.error.issues[0];
	throw new HttpError(400, "bad-input", `${issue.path.join(".") || "body"}: ${issue.message}`);
}

/** The body as bytes, refused when it is larger than `most`. */
export async function readBytes(request: Request, most: number): Promise<Uint8Array> {
	const tooLarge = () =>
		new HttpError(413, "too-large", `The body of the request is larger than ${Math.round(most / 1048576)} MB.`);
	if (Number(request.headers.get("content-length") ?? 0) > most) throw tooLarge();
	const pieces: Uint8Array[] = [];
	let size = 0;
	const reader = request.body?.getReader();
	while (reader) {
		const { done, value } = await reader.read();
		if (done) break;
		size += value.length;
		if (size > most) {
			await reader.cancel();
			throw tooLarge();
		}
		pieces.push(value);
	}
	const out = new Uint8Array(size);
	let at = 0;
	for (const p of pieces) {
		out.set(p, at);
		at += p.length;
	}
	return out;
}

type Handler<P> = (request: Request, params: P) => Promise<Response>;

/** Makes a route of a handler. */
export function route<P = Record<string, never>>(handler: Handler<P>) {
	return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
		try {
			checkCaller(request);
			return await handler(request, await context.params);
		} catch (error) {
			if (error instanceof HttpError) return reply(error.status, error.code, error.message);
			if (error instanceof StaleError) return reply(409, error.code, error.message, { state: error.state });
			if (error instanceof NoShotError) return reply(404, error.code, error.message);
			if (error instanceof EditError || error instanceof PictureFileError) return reply(400, error.code, error.message);
			if (error instanceof z.ZodError) return reply(400, "bad-input", error.issues[0].message);
			if (isAway(error))
				return reply(503, "database-away", "The database is away for the moment. Nothing is lost; it is tried again.");
			console.error(error);
			return reply(500, "failed", "The server could not do this. Its log says why.");
		}
	};
}
