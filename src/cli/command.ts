/** What every command of the command line is made of. */
import { readFileSync } from "node:fs";
import type pg from "pg";
import type { z } from "zod";

/** An error for the person at the command line. */
export class Refusal extends Error {
	readonly code: string;
	constructor(code: string, message: string) {
		super(message);
		this.code = code;
	}
}

export type Flags = Record<string, string | boolean | (string | boolean)[] | undefined>;

/** A command: one JSON document as its answer. */
export interface Command {
	/** Words after its name, as the usage shows them. */
	args: readonly string[];
	/** Options after those, as the usage shows them. */
	flags?: string;
	run: (asked: { args: string[]; flags: Flags; pool: pg.Pool }) => unknown;
	/** It needs no database, and gets none. */
	alone?: boolean;
	/** The start command's own, not in the usage. */
	hidden?: boolean;
}

export function readJson(path: string): unknown {
	let text: string;
	try {
		text = readFileSync(path, "utf8");
	} catch {
		throw new Refusal("no-file", `The file ${path} cannot be read.`);
	}
	try {
		return JSON.parse(text);
	} catch (error) {
		throw new Refusal("bad-json", `The file ${path} is not JSON: ${(error as Error).message}`);
	}
}

export function checked<T extends z.ZodType>(schema: T, value: unknown, what: string): z.infer<T> {
	const r = schema.safeParse(value);
	if (r.success) return r.data;
	const issue = r.error.issues[0];
	throw new Refusal("bad-input", `${what}: ${issue.path.join(".") || "value"}: ${issue.message}`);
}

/** The folder of built programs, in which this one runs. */
export const BUILD = new URL("./", import.meta.url);
