/** Videos of printed moves: ordered by the page, made by a press worker beside its tracing, kept as files. */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { upgrade } from "../core/doc/migrations.ts";
import type { VideoKind, VideoLine } from "../core/doc/records.ts";
import type { ShotDocument } from "../core/doc/schema.ts";
import { dropBlobs } from "./blobs.ts";
import { announce, inTransaction, type Queryable } from "./database.ts";

/** A video whose worker is not heard of for so long goes to the next. */
const LEASE_SECONDS = 20;

const SELECT = `select v.id, v.kind, v.state, v.done, v.blob, v.message,
  (select count(*)::int from frames f where f.print_id = v.print_id and f.state = 'done') as frames from videos v`;

export async function listVideos(db: Queryable, printId: string): Promise<VideoLine[]> {
	return (await db.query<VideoLine>(`${SELECT} where v.print_id = $1 order by v.created_at desc`, [printId])).rows;
}

/** Orders a video of a print's frames with the finish of a shot; one of its kind that is there gives way when the new one is done. */
export async function orderVideo(
	pool: pg.Pool,
	printId: string,
	kind: VideoKind,
	document: ShotDocument,
	{ clean, steady }: { clean: boolean; steady: boolean },
): Promise<string> {
	const id = randomUUID().slice(0, 8);
	await inTransaction(pool, async (client) => {
		await client.query("delete from videos where print_id = $1 and kind = $2 and state in ('waiting', 'failed')", [
			printId,
			kind,
		]);
		await client.query(
			"insert into videos (id, print_id, kind, document, clean, steady) values ($1, $2, $3, $4, $5, $6)",
			[id, printId, kind, JSON.stringify(document), clean, steady],
		);
		await announce(client, { kind: "work", id });
		await announce(client, { kind: "print", id: printId });
	});
	return id;
}

export interface VideoWork {
	id: string;
	token: string;
	printId: string;
	kind: VideoKind;
	document: ShotDocument;
	clean: boolean;
	/** Frames have their neighbours taken in. */
	steady: boolean;
}

/** Takes the oldest video that nobody makes. */
export async function claimVideo(pool: pg.Pool): Promise<VideoWork | null> {
	const token = randomUUID();
	const r = await pool.query(
		`update videos set state = 'making', done = 0, token = $1, lease_until = now() + make_interval(secs => ${LEASE_SECONDS})
		 where id = (select id from videos where state = 'waiting' or (state = 'making' and lease_until < now())
		   order by created_at for update skip locked limit 1)
		 returning id, print_id, kind, document, clean, steady`,
		[token],
	);
	const v = r.rows[0];
	return v
		? {
				id: v.id,
				token,
				printId: v.print_id,
				kind: v.kind,
				document: upgrade(v.document),
				clean: v.clean,
				steady: v.steady,
			}
		: null;
}

/** Tells how far a video is, and keeps its claim. False when it has gone to another or is wanted no more. */
export async function tellVideo(pool: pg.Pool, { id, token, printId }: VideoWork, done: number): Promise<boolean> {
	const r = await pool.query(
		`update videos set done = $3, lease_until = now() + make_interval(secs => ${LEASE_SECONDS})
		 where id = $1 and token = $2 and state = 'making'`,
		[id, token, done],
	);
	if (r.rowCount) await announce(pool, { kind: "print", id: printId });
	return (r.rowCount ?? 0) > 0;
}

/** Hands in a video. Those of its kind before it go. */
export async function finishVideo(pool: pg.Pool, work: VideoWork, blob: string): Promise<void> {
	const { id, token, printId, kind } = work;
	await inTransaction(pool, async (client) => {
		const r = await client.query(
			"update videos set state = 'done', blob = $3, token = null, finished_at = now() where id = $1 and token = $2 and state = 'making'",
			[id, token, blob],
		);
		if (r.rowCount === 0) return;
		const old = await client.query<{ blob: string | null }>(
			"delete from videos where print_id = $1 and kind = $2 and state = 'done' and id <> $3 returning blob",
			[printId, kind, id],
		);
		await dropBlobs(
			client,
			old.rows.map((o) => o.blob),
		);
		await announce(client, { kind: "print", id: printId });
	});
}

/** Says that a video could not be made. */
export async function failVideo(pool: pg.Pool, { id, token, printId }: VideoWork, message: string): Promise<void> {
	await pool.query(
		"update videos set state = 'failed', message = $3, token = null, finished_at = now() where id = $1 and token = $2",
		[id, token, message],
	);
	await announce(pool, { kind: "print", id: printId });
}

/** Takes a video away, made or not. */
export async function deleteVideo(pool: pg.Pool, id: string): Promise<boolean> {
	return inTransaction(pool, async (client) => {
		const r = await client.query<{ print_id: string; blob: string | null }>(
			"delete from videos where id = $1 returning print_id, blob",
			[id],
		);
		if (!r.rows[0]) return false;
		await dropBlobs(client, [r.rows[0].blob]);
		await announce(client, { kind: "print", id: r.rows[0].print_id });
		return true;
	});
}
