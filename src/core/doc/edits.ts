/**
 * Every change of a shot is one of these named edits. Each has one schema and one pure recipe. The interface, the
 * command line, the tests and the demo scripts change a shot in this way only.
 */
import { enablePatches, type Patch, produceWithPatches } from "immer";
import type { z } from "zod";
import { airEdits } from "./edits/air.ts";
import { cameraEdits } from "./edits/camera.ts";
import { coverEdits } from "./edits/cover.ts";
import { type Definition, type Doc, EditError } from "./edits/define.ts";
import { groundEdits } from "./edits/ground.ts";
import { lampEdits } from "./edits/lamp.ts";
import { matchEdits } from "./edits/match.ts";
import { pieceEdits } from "./edits/piece.ts";
import { printEdits } from "./edits/print.ts";
import { referenceEdits } from "./edits/reference.ts";
import { shotEdits } from "./edits/shot.ts";
import type { NamedFile } from "./files.ts";
import type * as S from "./schema.ts";

enablePatches();

export const EDITS = {
	...shotEdits,
	...referenceEdits,
	...matchEdits,
	...cameraEdits,
	...pieceEdits,
	...groundEdits,
	...coverEdits,
	...lampEdits,
	...airEdits,
	...printEdits,
};

export type EditName = keyof typeof EDITS;
export type Edit = { [K in EditName]: { name: K } & z.infer<(typeof EDITS)[K]["schema"]> }[EditName];

export interface Applied {
	document: S.ShotDocument;
	forward: Patch[];
	inverse: Patch[];
}

/**
 * Checks a value from outside and returns it as an edit. Throws {@link EditError} with a sentence that names the field.
 */
export function parseEdit(value: unknown): Edit {
	const name = (value as { name?: unknown } | null)?.name;
	if (typeof name !== "string" || !Object.hasOwn(EDITS, name))
		throw new EditError("unknown-edit", `There is no edit named ${JSON.stringify(name ?? null)}.`);
	const { name: _, ...rest } = value as Record<string, unknown>;
	const result = EDITS[name as EditName].schema.safeParse(rest);
	if (!result.success) {
		const issue = result.error.issues[0];
		throw new EditError("bad-edit", `${name}: ${issue.path.length ? `${issue.path.join(".")}: ` : ""}${issue.message}`);
	}
	return { name, ...(result.data as object) } as Edit;
}

/**
 * Applies one edit to a document. Pure; the patches lead forward and back.
 * @example const { document, inverse } = applyEdit(doc, { name: "piece.move", pieces: [{ id: "shed", position: [2, 0, -50] }] });
 * applyPatches(document, inverse) // is doc again
 */
export function applyEdit(document: S.ShotDocument, edit: Edit): Applied {
	const { name, ...values } = edit;
	const definition = EDITS[name] as Definition<z.ZodType>;
	const [next, forward, inverse] = produceWithPatches(document, (draft: Doc) => {
		definition.apply(draft, values);
	});
	return { document: next as S.ShotDocument, forward, inverse };
}

/** Files that an edit brings into the shot. */
export function filesBrought({ name, ...values }: Edit): NamedFile[] {
	return (EDITS[name] as Definition<z.ZodType>).brings(values);
}

/** What the history calls an edit. */
export const editLabel = (name: string): string => EDITS[name as EditName]?.label ?? name;

export { applyPatches, type Patch } from "immer";
export { EditError } from "./edits/define.ts";
