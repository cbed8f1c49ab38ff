/** The wrapper of every route: who may call, what may come in, and how errors leave. */
import { z } from "zod";
import { EditError } from "../core/doc/edits.ts";
import { PictureFileError } from "../core/formats/exr.ts";
import { isAway } from "../store/database.ts";
import { NoShotError, StaleError } from "../store/shots.ts";
import { refusalOf } from "./callers.ts";

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
	const refusal = refusalOf(request.headers);
	if (refusal) throw new HttpError(403, refusal.code, refusal.message);
}

/** Depth to which lists and things in a body may be nested: far more than a document has. */
const MOST_DEPTH = 64;

/** Refuses what JSON lets pass and a database does not keep: nesting without end, zeros and halves of characters in words. */
function checkWords(text: string): void {
	let depth = 0;
	let inWords = false;
	for (let i = 0; i < text.length; i++) {
		const c = text.charCodeAt(i);
		if (inWords) {
			if (c === 0x5c) i++;
			else if (c === 0x22) inWords = false;
		} else if (c === 0x22) inWords = true;
		else if (c === 0x5b || c === 0x7b) {
			if (++depth > MOST_DEPTH)
				throw new HttpError(400, "bad-input", `The body is nested more than ${MOST_DEPTH} deep.`);
		} else if (c === 0x5d || c === 0x7d) depth--;
	}
}

/** A zero, or half of a character that takes two. */
const NOT_KEPT = /\0|\p{Surrogate}/u;

/** A reviver that refuses words which cannot be kept. */
function kept(key: string, value: unknown): unknown {
	for (const words of [key, value])
		if (typeof words === "string" && NOT_KEPT.test(words))
			throw new HttpError(400, "bad-input", `${key.slice(0, 80) || "body"}: Words hold a zero or half a character.`);
	return value;
}

/** The body as JSON that fits a schema. */
export async function readBody<T extends z.ZodType>(request: Request, schema: T): Promise<z.infer<T>> {
	const bytes = await readBytes(request, MOST_JSON);
	let value: unknown;
	try {
		const text = new TextDecoder("utf-8", { fatal: true }).decode(bytes);
		checkWords(text);
		value = JSON.parse(text, kept);
	} catch (error) {
		if (error instanceof HttpError) throw error;
		throw new HttpError(400, "bad-json", "The body of the request is not JSON.");
	}
	const r = schema.safeParse(value);
	if (r.success) return r.data;
	const issue = r.error.issues[0];
	throw new HttpError(400, "bad-input", `${issue.path.join(".") || "body"}: ${issue.message}`);
}

/** Bytes at the beginning of a file by which its kind is told. */
const HEAD_BYTES = 16;

/**
 * The body as bytes, refused when it is larger than `most`. `look` sees how it begins before the rest is taken in, and throws
 * when that is nothing that can be used.
 */
export async function readBytes(
	request: Request,
	most: number,
	look: (head: Uint8Array) => void = () => {},
): Promise<Uint8Array> {
	const tooLarge = () =>
		new HttpError(413, "too-large", `The body of the request is larger than ${Math.round(most / 1048576)} MB.`);
	if (Number(request.headers.get("content-length") ?? 0) > most) throw tooLarge();
	const known = Number(request.headers.get("content-length") ?? 0);
	// Of a known length the place is made once; else it grows by doubling.
	let out = new Uint8Array(known || 65_536);
	let size = 0;
	let looked = false;
	const reader = request.body?.getReader();
	try {
		while (reader) {
			const { done, value } = await reader.read();
			if (done) break;
			if (size + value.length > most) throw tooLarge();
			if (size + value.length > out.length) {
				const larger = new Uint8Array(Math.min(most, Math.max(2 * out.length, size + value.length)));
				larger.set(out.subarray(0, size));
				out = larger;
			}
			out.set(value, size);
			size += value.length;
			if (looked || size < HEAD_BYTES) continue;
			looked = true;
			look(out.subarray(0, HEAD_BYTES));
		}
		if (!looked) look(out.subarray(0, size));
	} catch (error) {
		await reader?.cancel().catch(() => {});
		throw error;
	}
	return size === out.length ? out : out.slice(0, size);
}

/** Parts of an address: none holds a zero, which no name here has. */
function checkParams(params: object | undefined): void {
	for (const value of Object.values(params ?? {}))
		if (typeof value === "string" && (NOT_KEPT.test(value) || value.includes("%00")))
			throw new HttpError(404, "not-found", "There is nothing of this name.");
}

type Handler<P> = (request: Request, params: P) => Promise<Response>;

/** Makes a route of a handler. */
export function route<P = Record<string, never>>(handler: Handler<P>) {
	return async (request: Request, context: { params: Promise<P> }): Promise<Response> => {
		try {
			checkCaller(request);
			const params = await context.params;
			checkParams(params as object | undefined);
			return await handler(request, params);
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
