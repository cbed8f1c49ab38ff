/** What hosts make for scenes, kept by maker, its code and a key: whoever misses it makes it, and however many ask, once. */
import type pg from "pg";
import { putBlob } from "./blobs.ts";
import { inTransaction, type Queryable, takeClient } from "./database.ts";

export interface MadeName {
	maker: string;
	/** Raised when things are made in another way. */
	code: number;
	/** Digest of all that it is made from. */
	key: string;
	/** File that it is made from, with which it goes. */
	file: string | null;
}

const LOOK_MS = 150;

/** Name of the blob of a thing that has been made, or null. */
export async function findMade(db: Queryable, { maker, code, key }: MadeName): Promise<string | null> {
	const r = await db.query<{ blob: string }>("select blob from made where maker = $1 and code = $2 and key = $3", [
		maker,
		code,
		key,
	]);
	return r.rows[0]?.blob ?? null;
}

/** Keeps a thing. The one that is there already stays. Call inside a transaction. */
export async function keepMade(db: Queryable, { maker, code, key, file }: MadeName, bytes: Uint8Array): Promise<void> {
	const blob = await putBlob(db, bytes, "application/octet-stream");
	await db.query(
		"insert into made (maker, code, key, file, blob) values ($1, $2, $3, $4, $5) on conflict (maker, code, key) do nothing",
		[maker, code, key, file, blob],
	);
}

/**
 * Name of the blob of a thing, made when it is missing. While another host makes it, that one is waited for.
 * @example madeOnce(pool, { maker: "sky", code: CODE, key: file, file }, () => prepare(await getBlob(pool, file)))
 */
export async function madeOnce(pool: pg.Pool, name: MadeName, make: () => Promise<Uint8Array>): Promise<string> {
	const lock = [`${name.maker} ${name.code} ${name.key}`];
	for (;;) {
		const held = await findMade(pool, name);
		if (held) return held;
		const client = await takeClient(pool);
		let broken: Error | undefined;
		try {
			const got = await client.query<{ got: boolean }>(
				"select pg_try_advisory_lock(hashtextextended($1, 0)) as got",
				lock,
			);
			if (got.rows[0].got) {
				try {
					if (!(await findMade(client, name))) {
						const bytes = await make();
						await inTransaction(pool, (c) => keepMade(c, name, bytes));
					}
				} finally {
					await client.query("select pg_advisory_unlock(hashtextextended($1, 0))", lock).catch((e) => {
						// Its lock ends with the connection.
						broken = e;
					});
				}
				continue;
			}
		} finally {
			client.release(broken);
		}
		await new Promise((r) => setTimeout(r, LOOK_MS));
	}
}
