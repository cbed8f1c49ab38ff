/** What every named edit is made with. */
import { type Draft, isDraft, original } from "immer";
import type { z } from "zod";
import type { NamedFile } from "../files.ts";
import type * as S from "../schema.ts";

/** An edit that cannot be applied: what is wrong, and with what. */
export class EditError extends Error {
	readonly code: string;
	constructor(code: string, message: string) {
		super(message);
		this.code = code;
	}
}

export type Doc = Draft<S.ShotDocument>;

export interface Definition<T extends z.ZodType> {
	/** What the history calls it. */
	label: string;
	schema: T;
	apply: (doc: Doc, edit: z.infer<T>) => void;
	/** Files that it brings; they are kept before it is. */
	brings: (edit: z.infer<T>) => NamedFile[];
}

export const define = <T extends z.ZodType>(
	label: string,
	schema: T,
	apply: (doc: Doc, edit: z.infer<T>) => void,
	brings: (edit: z.infer<T>) => NamedFile[] = () => [],
): Definition<T> => ({ label, schema, apply, brings });

export function find<T extends { id: string }>(list: T[], id: string, what: string): T {
	// Looking through a draft makes a draft of each item passed: of thousands, the place is looked up in what it was drawn from.
	const at = isDraft(list) ? (original<{ id: string }[]>(list)?.findIndex((i) => i.id === id) ?? -1) : -1;
	const item = list[at]?.id === id ? list[at] : list.find((i) => i.id === id);
	if (!item) throw new EditError("not-found", `There is no ${what} "${id}" in this shot.`);
	return item;
}

export function refuseTaken(list: { id: string }[], id: string, what: string): void {
	if (list.some((i) => i.id === id)) throw new EditError("taken", `The ${what} "${id}" is in this shot already.`);
}

/** The list with an item added or put in the place of the one of its name. */
export function put<T extends { id: string }>(list: T[] | undefined, item: T, most: number): T[] {
	const at = list?.findIndex((i) => i.id === item.id) ?? -1;
	if (!list || at < 0) {
		if ((list?.length ?? 0) >= most) throw new EditError("full", `There are ${most} of these at most.`);
		return [...(list ?? []), item];
	}
	return list.map((i, k) => (k === at ? item : i));
}
