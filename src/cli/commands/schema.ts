import { z } from "zod";
import { EDITS } from "../../core/doc/edits.ts";
import { DOCUMENT_VERSION, ShotDocument } from "../../core/doc/schema.ts";
import type { Command } from "../command.ts";

const jsonSchema = (schema: z.ZodType) => z.toJSONSchema(schema, { io: "input", unrepresentable: "any" });

/** JSON Schemas of the document and of every named edit. */
export const schema: Command = {
	args: [],
	alone: true,
	run: () => ({
		version: DOCUMENT_VERSION,
		document: jsonSchema(ShotDocument),
		edits: Object.fromEntries(
			Object.entries(EDITS).map(([name, edit]) => [name, { label: edit.label, schema: jsonSchema(edit.schema) }]),
		),
	}),
};
