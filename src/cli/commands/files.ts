import { appendFileSync, writeFileSync } from "node:fs";
import { basename } from "node:path";
import type pg from "pg";
import { z } from "zod";
import { filesOf } from "../../core/doc/files.ts";
import { type StoredDocument, upgrade } from "../../core/doc/migrations.ts";
import { Id, ShotDocument } from "../../core/doc/schema.ts";
import { sceneGlb } from "../../core/out/sceneGlb.ts";
import { sceneObj } from "../../core/out/sceneObj.ts";
import { getBlob, putBlob, sha256 } from "../../store/blobs.ts";
import { inTransaction } from "../../store/database.ts";
import { Compiler } from "../../store/inputs.ts";
import { createShot, findShot } from "../../store/shots.ts";
import { type Command, checked, Refusal, readJson } from "../command.ts";

/** A document of an earlier version as it is now; anything else as it came, for the schema to refuse in words. */
function upgradedIfKnown(doc: unknown): unknown {
	try {
		return upgrade(doc as StoredDocument);
	} catch {
		return doc;
	}
}

const Export = z.object({
	inquadra: z.literal(1),
	shot: z.object({
		id: Id,
		/** Of this version of the schema or one before. */
		document: z.preprocess((doc) => upgradedIfKnown(doc), ShotDocument),
	}),
	blobs: z.record(z.string(), z.object({ mediaType: z.string().max(100), base64: z.string() })),
});

async function exportShot(pool: pg.Pool, name: string, path: string) {
	const shot = await findShot(pool, name);
	const blobs: Record<string, { mediaType: string; base64: string }> = {};
	for (const { blob } of filesOf(shot.document)) {
		const data = await getBlob(pool, blob);
		const info = await pool.query<{ media_type: string }>("select media_type from blobs where hash = $1", [blob]);
		if (data) blobs[blob] = { mediaType: info.rows[0].media_type, base64: data.toString("base64") };
	}
	writeFileSync(path, JSON.stringify({ inquadra: 1, shot: { id: shot.id, document: shot.document }, blobs }));
	return {
		exported: shot.id,
		title: shot.title,
		revision: shot.revision,
		blobs: Object.keys(blobs).length,
		file: path,
	};
}

async function importShot(pool: pg.Pool, path: string) {
	const file = checked(Export, readJson(path), path);
	const { document } = file.shot;
	await inTransaction(pool, async (client) => {
		for (const { blob: hash, what } of filesOf(document)) {
			const blob = file.blobs[hash];
			const data = blob ? Buffer.from(blob.base64, "base64") : null;
			if (!blob || !data || sha256(data) !== hash)
				throw new Refusal("bad-blob", `${path}: the ${what} is missing or damaged.`);
			await putBlob(client, data, blob.mediaType);
		}
	});
	const taken = await pool.query("select 1 from shots where id = $1", [file.shot.id]);
	const shot = await createShot(pool, document, taken.rowCount ? undefined : file.shot.id);
	return { imported: shot.id, title: shot.title, revision: shot.revision };
}

/** The set for other programs: what stands in it as it is compiled. */
async function exportSet(pool: pg.Pool, name: string, path: string, instanced: boolean) {
	const shot = await findShot(pool, name);
	const scene = await new Compiler(pool).compile(shot.document);
	const said = { exported: shot.id, title: shot.title, revision: shot.revision, file: path };
	if (path.endsWith(".glb")) {
		const bytes = sceneGlb(scene, shot.document, { instanced });
		writeFileSync(path, bytes);
		return { ...said, bytes: bytes.length };
	}
	const materials = path.replace(/\.obj$/, ".mtl");
	let files: ReturnType<typeof sceneObj>;
	try {
		files = sceneObj(scene, basename(materials));
	} catch (error) {
		throw new Refusal("too-much", (error as Error).message);
	}
	writeFileSync(path, "");
	for (const text of files.obj) appendFileSync(path, text);
	writeFileSync(materials, files.mtl);
	return { ...said, materials };
}

const ExportFlags = z.object({ instanced: z.boolean().optional() });

/** A shot with its files as one JSON document, and back; or its set as another program reads it. */
const exporting: Command = {
	args: ["SHOT", "FILE.json|FILE.glb|FILE.obj"],
	flags: "[--instanced]",
	run: ({ args: [name, path], flags, pool }) => {
		const { instanced = false } = checked(ExportFlags, flags, "export");
		if (/\.(glb|obj)$/.test(path)) return exportSet(pool, name, path, instanced);
		return exportShot(pool, name, path);
	},
};
const importing: Command = { args: ["FILE.json"], run: ({ args: [path], pool }) => importShot(pool, path) };

export { exporting as export, importing as import };
