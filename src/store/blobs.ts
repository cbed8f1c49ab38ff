/** Binaries in the database, named by their SHA-256, in rows of one MiB. */
import { createHash } from "node:crypto";
import { createReadStream } from "node:fs";
import { open, stat } from "node:fs/promises";
import type { Queryable } from "./database.ts";

const CHUNK = 1 << 20;

export const sha256 = (data: Uint8Array): string => createHash("sha256").update(data).digest("hex");

/** Keeps bytes and returns their name. Keeping the same bytes twice costs nothing. Call inside a transaction. */
export async function putBlob(db: Queryable, data: Uint8Array, mediaType: string): Promise<string> {
	const hash = sha256(data);
	const fresh = await db.query(
		"insert into blobs (hash, size, media_type) values ($1, $2, $3) on conflict do nothing",
		[hash, data.length, mediaType],
	);
	if (fresh.rowCount === 0) return hash;
	for (let at = 0, n = 0; at < data.length; at += CHUNK, n++) {
		await db.query("insert into blob_chunks (hash, n, data) values ($1, $2, $3)", [
			hash,
			n,
			Buffer.from(data.buffer as ArrayBuffer, data.byteOffset + at, Math.min(CHUNK, data.length - at)),
		]);
	}
	return hash;
}

/** Keeps a file that may be larger than memory, and returns its name. Call inside a transaction. */
export async function putBlobFile(db: Queryable, path: string, mediaType: string): Promise<string> {
	const digest = createHash("sha256");
	for await (const piece of createReadStream(path, { highWaterMark: CHUNK })) digest.update(piece);
	const hash = digest.digest("hex");
	const { size } = await stat(path);
	const fresh = await db.query(
		"insert into blobs (hash, size, media_type) values ($1, $2, $3) on conflict do nothing",
		[hash, size, mediaType],
	);
	if (fresh.rowCount === 0) return hash;
	const file = await open(path);
	try {
		for (let n = 0; n * CHUNK < size; n++) {
			const piece = Buffer.alloc(Math.min(CHUNK, size - n * CHUNK));
			await file.read(piece, 0, piece.length, n * CHUNK);
			await db.query("insert into blob_chunks (hash, n, data) values ($1, $2, $3)", [hash, n, piece]);
		}
	} finally {
		await file.close();
	}
	return hash;
}

export interface BlobInfo {
	hash: string;
	size: number;
	mediaType: string;
}

export async function blobInfo(db: Queryable, hash: string): Promise<BlobInfo | null> {
	const r = await db.query<{ size: string; media_type: string }>("select size, media_type from blobs where hash = $1", [
		hash,
	]);
	return r.rows[0] ? { hash, size: Number(r.rows[0].size), mediaType: r.rows[0].media_type } : null;
}

/** Chunks of a blob in order. (node-postgres hands bytea over as text; its binary results are still decoded as UTF-8.) */
export async function* blobChunks(db: Queryable, hash: string): AsyncGenerator<Buffer> {
	for (let n = 0; ; n++) {
		const r = await db.query<{ data: Buffer }>({
			name: "blob-chunk",
			text: "select data from blob_chunks where hash = $1 and n = $2",
			values: [hash, n],
		});
		if (r.rows.length === 0) return;
		yield r.rows[0].data;
	}
}

/** Bytes [from, to) of a blob. */
export async function blobRange(db: Queryable, hash: string, from: number, to: number): Promise<Buffer> {
	const pieces: Buffer[] = [];
	for (let n = Math.floor(from / CHUNK); n * CHUNK < to; n++) {
		const r = await db.query<{ data: Buffer }>({
			name: "blob-chunk",
			text: "select data from blob_chunks where hash = $1 and n = $2",
			values: [hash, n],
		});
		if (r.rows.length === 0) throw new Error(`piece ${n} of a file is gone`);
		pieces.push(r.rows[0].data.subarray(Math.max(0, from - n * CHUNK), Math.min(CHUNK, to - n * CHUNK)));
	}
	return Buffer.concat(pieces);
}

/** The whole of a blob, or null. */
export async function getBlob(db: Queryable, hash: string): Promise<Buffer | null> {
	if (!(await blobInfo(db, hash))) return null;
	const pieces: Buffer[] = [];
	for await (const piece of blobChunks(db, hash)) pieces.push(piece);
	return Buffer.concat(pieces);
}

const UNUSED = `not exists (select 1 from file_uses u where u.hash = b.hash)
 and not exists (select 1 from frames f where f.exr = b.hash)
 and not exists (select 1 from frames f where f.thumbnail = b.hash)
 and not exists (select 1 from frames f where f.steady = b.hash)
 and not exists (select 1 from videos v where v.blob = b.hash)
 and not exists (select 1 from made m where m.blob = b.hash)
 and not exists (select 1 from copies c where c.copy = b.hash)
 and not exists (select 1 from left_behind l where l.thumbnail = b.hash)
 and not exists (select 1 from checkpoints c where c.thumbnail = b.hash)`;

/** Drops blobs that nothing refers to and that are older than a day (a page may be about to refer to a young one). */
export async function collectBlobs(db: Queryable, olderThan = "1 day"): Promise<number> {
	const r = await db.query(`delete from blobs b where created_at < now() - $1::interval and ${UNUSED}`, [olderThan]);
	return r.rowCount ?? 0;
}

/** Drops the given blobs, whatever their age, unless something refers to them. */
export async function dropBlobs(db: Queryable, hashes: readonly (string | null)[]): Promise<void> {
	await db.query(`delete from blobs b where hash = any($1) and ${UNUSED}`, [hashes.filter((h) => h !== null)]);
}

/** Notes all files that words of a shot name: its document, or what an edit did and would take back. */
export async function noteFiles(db: Queryable, shotId: string, ...words: string[]): Promise<void> {
	const named = new Set(words.flatMap((w) => w.match(/[0-9a-f]{64}/g) ?? []));
	if (named.size === 0) return;
	await db.query(
		"insert into file_uses (shot_id, hash) select $1, hash from blobs where hash = any($2) on conflict do nothing",
		[shotId, [...named]],
	);
}
