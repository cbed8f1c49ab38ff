/** Frames of moves with their neighbours taken in: claimed by a press worker when these are done, kept beside the frames' own files. */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { STEADY_REACH } from "../core/time/steady.ts";
import { getBlob } from "./blobs.ts";
import { announce, inTransaction, type Queryable } from "./database.ts";
import { openPrintBytes, type PrintFile, withSteady } from "./printFiles.ts";

/** A frame whose worker is not heard of for so long goes to the next. */
const LEASE_SECONDS = 60;

/** A frame, and what lies beside it: how far away, and the file of each. */
export interface SteadyWork {
	id: string;
	frame: number;
	token: string;
	exr: string;
	beside: { away: number; frame: number; exr: string }[];
}

/** Frames that are done with all that lie about them and are still without: of prints of more than one frame. */
const WAITING = `select * from (
   select f.print_id, f.frame, f.state, f.exr, f.steady, f.steady_until, p.created_at,
     row_number() over w as place, count(*) over around as about, bool_and(f.state = 'done') over around as ready,
     json_agg(json_build_object('frame', f.frame, 'exr', f.exr)) over around as beside
   from frames f join prints p on p.id = f.print_id
   where p.sequence and p.state in ('tracing', 'assembling', 'paused', 'done')
     and exists (select 1 from frames g where g.print_id = p.id and g.state = 'done' and g.steady is null)
   window w as (partition by f.print_id order by f.frame),
     around as (w rows between ${STEADY_REACH} preceding and ${STEADY_REACH} following)) q
 where ready and steady is null and about > 1`;

/** Takes the first frame that waits and that nobody has; of several who ask at once each gets one while there are as many. */
export async function claimSteady(pool: pg.Pool): Promise<SteadyWork | null> {
	const token = randomUUID();
	const r = await pool.query(
		`with one as (
		   select f.print_id, f.frame, w.beside from frames f join (${WAITING}) w on f.print_id = w.print_id and f.frame = w.frame
		   where f.steady is null and (f.steady_until is null or f.steady_until < now())
		   order by w.created_at, f.frame for update of f skip locked limit 1)
		 update frames f set steady_token = $1, steady_until = now() + make_interval(secs => ${LEASE_SECONDS})
		 from one where f.print_id = one.print_id and f.frame = one.frame
		 returning f.print_id as id, f.frame, f.exr, one.beside`,
		[token],
	);
	const f = r.rows[0];
	if (!f) return null;
	const all: { frame: number; exr: string }[] = f.beside;
	const own = all.findIndex((b) => b.frame === f.frame);
	return {
		id: f.id,
		frame: f.frame,
		exr: f.exr,
		token,
		beside: all.map((b, i) => ({ ...b, away: Math.abs(i - own) })).filter((b) => b.away > 0),
	};
}

/** Hands in what was made of a frame. False when it has gone to another, or is wanted no more. */
export async function finishSteady(pool: pg.Pool, { id, frame, token }: SteadyWork, steady: string): Promise<boolean> {
	return inTransaction(pool, async (client) => {
		const r = await client.query(
			"update frames set steady = $4, steady_token = null, steady_until = null where print_id = $1 and frame = $2 and steady_token = $3",
			[id, frame, token, steady],
		);
		if (r.rowCount === 0) return false;
		await announce(client, { kind: "print", id });
		return true;
	});
}

/** Leaves a frame without: it cannot be made. */
export async function failSteady(pool: pg.Pool, { id, frame, token }: SteadyWork): Promise<void> {
	await pool.query(
		"update frames set steady_token = null, steady_until = 'infinity' where print_id = $1 and frame = $2 and steady_token = $3",
		[id, frame, token],
	);
}

/** How many frames of a print are still to be made that can be. */
export async function steadyWaits(db: Queryable, id: string): Promise<number> {
	const r = await db.query<{ n: number }>(
		`select count(*)::int as n from (${WAITING} and print_id = $1 and (steady_until is null or steady_until < 'infinity')) w`,
		[id],
	);
	return r.rows[0].n;
}

/** The file of a frame, and with it, where it is told, the picture with its neighbours taken in. */
export async function openFrameFile(db: Queryable, exr: string, steady: string | null): Promise<PrintFile> {
	const read = async (hash: string) => {
		const file = await getBlob(db, hash);
		if (!file) throw new Error("The file of a frame is gone.");
		return openPrintBytes(file);
	};
	const own = await read(exr);
	return steady ? withSteady(own, await read(steady)) : own;
}
