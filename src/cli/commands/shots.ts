import { readFileSync } from "node:fs";
import { z } from "zod";
import { blankShot } from "../../core/doc/defaults.ts";
import { ShotDocument } from "../../core/doc/schema.ts";
import { putBlob } from "../../store/blobs.ts";
import { inTransaction } from "../../store/database.ts";
import { mediaTypeOf } from "../../store/mediaType.ts";
import { commitEdits, createShot, findShot, listShots } from "../../store/shots.ts";
import { type Command, checked, Refusal, readJson } from "../command.ts";

/** All shots. */
export const shots: Command = {
	args: [],
	run: async ({ pool }) => ({
		shots: (await listShots(pool)).map(({ id, title, revision }) => ({ id, title, revision })),
	}),
};

/** Makes a blank shot. */
const making: Command = {
	args: ["TITLE"],
	run: async ({ args: [title], pool }) => {
		const shot = await createShot(pool, blankShot(checked(ShotDocument.shape.title, title, "title")));
		return { id: shot.id, title: shot.title, revision: shot.revision };
	},
};

/** Applies named edits, all of them or none. */
export const edit: Command = {
	args: ["SHOT", "EDITS.json"],
	run: async ({ args: [name, path], pool }) => {
		const edits = checked(z.array(z.unknown()), readJson(path), path);
		const { id } = await findShot(pool, name);
		const { revision } = await commitEdits(pool, id, edits);
		return { id, revision };
	},
};

/** Keeps a file for edits that bring one. */
export const keep: Command = {
	args: ["FILE"],
	run: async ({ args: [path], pool }) => {
		let data: Buffer;
		try {
			data = readFileSync(path);
		} catch {
			throw new Refusal("no-file", `The file ${path} cannot be read.`);
		}
		if (data.length === 0) throw new Refusal("empty-file", `The file ${path} is empty.`);
		const blob = await inTransaction(pool, (client) => putBlob(client, data, mediaTypeOf(data)));
		return { blob, bytes: data.length };
	},
};

export { making as new };
