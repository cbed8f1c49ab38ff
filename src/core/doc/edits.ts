/**
 * Every change of a shot is one of these named edits. Each has one schema and one pure recipe. The interface, the
 * command line, the tests and the demo scripts change a shot in this way only.
 */
import { enablePatches, type Patch, produceWithPatches } from "immer";
import { z } from "zod";
import { airEdits } from "./edits/air.ts";
import { cameraEdits } from "./edits/camera.ts";
import { coverEdits } from "./edits/cover.ts";
import { type Definition, type Doc, define, EditError } from "./edits/define.ts";
import { groundEdits } from "./edits/ground.ts";
import { groupEdits } from "./edits/group.ts";
import { imageSurfaceEdits } from "./edits/imageSurface.ts";
import { lampEdits } from "./edits/lamp.ts";
import { matchEdits } from "./edits/match.ts";
import { moveEdits, NewKey, putKeys } from "./edits/move.ts";
import { pieceEdits } from "./edits/piece.ts";
import { printEdits } from "./edits/print.ts";
import { referenceEdits } from "./edits/reference.ts";
import { shotEdits } from "./edits/shot.ts";
import { stainEdits } from "./edits/stain.ts";
import type { NamedFile } from "./files.ts";
import { readKeyed, writeKeyed } from "./keyedValues.ts";
import type * as S from "./schema.ts";

enablePatches();

/** Edits that stand by themselves. */
const ALONE = {
	...shotEdits,
	...referenceEdits,
	...matchEdits,
	...cameraEdits,
	...pieceEdits,
	...groupEdits,
	...groundEdits,
	...stainEdits,
	...imageSurfaceEdits,
	...coverEdits,
	...lampEdits,
	...airEdits,
	...printEdits,
	...moveEdits,
};
type Alone = typeof ALONE;
type AloneEdit = { [K in keyof Alone]: { name: K } & z.infer<Alone[K]["schema"]> }[keyof Alone];

/** Checks a value from outside as an edit of one of these definitions. Throws {@link EditError} in a sentence. */
function parsedBy<D extends Record<string, { schema: z.ZodType }>>(definitions: D, value: unknown): unknown {
	const name = (value as { name?: unknown } | null)?.name;
	if (typeof name !== "string" || !Object.hasOwn(definitions, name))
		throw new EditError("unknown-edit", `There is no edit named ${JSON.stringify(name ?? null)}.`);
	const { name: _, ...rest } = value as Record<string, unknown>;
	const result = definitions[name].schema.safeParse(rest);
	if (!result.success) {
		const issue = result.error.issues[0];
		throw new EditError("bad-edit", `${name}: ${issue.path.length ? `${issue.path.join(".")}: ` : ""}${issue.message}`);
	}
	return { name, ...(result.data as object) };
}

const inner = (edit: unknown) => {
	const { name, ...values } = parsedBy(ALONE, edit) as AloneEdit;
	return { definition: ALONE[name] as Definition<z.ZodType>, values };
};

export const EDITS = {
	...ALONE,
	/**
	 * Any other edit, done at a time of the move: what it changes of values that are keyed goes into their keys, and leaves
	 * the document's own values as they are; all else it changes as ever.
	 */
	"move.at": define(
		"at a time of the move",
		z.object({ edit: z.record(z.string(), z.unknown()), keys: z.array(NewKey).min(1).max(2000) }),
		(d: Doc, { edit, keys }) => {
			const { definition, values } = inner(edit);
			const own = keys.map(({ value, of }) => ({ value, of, is: readKeyed(d, value, of) }));
			definition.apply(d, values);
			for (const { value, of, is } of own) writeKeyed(d, value, of, is);
			putKeys(d, keys);
		},
		({ edit }) => {
			const { definition, values } = inner(edit);
			return definition.brings(values);
		},
	),
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
export const parseEdit = (value: unknown): Edit => parsedBy(EDITS, value) as Edit;

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
