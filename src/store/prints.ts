/**
 * Prints: their orders, how they stand, what becomes of them. A print is a still, which has one frame, or frames of a move
 * (`frames.ts`); each frame has units of work (`units.ts`).
 *
 * Locks are taken in one order, so that nobody waits in a ring: the print, then its frames, then their units by tile.
 */

import { randomUUID } from "node:crypto";
import type pg from "pg";
import { upgrade } from "../core/doc/migrations.ts";
import type { PrintLine, PrintState, VideoLine } from "../core/doc/records.ts";
import type { Rate, ShotDocument, Spread } from "../core/doc/schema.ts";
import { tracedArea } from "../core/lens/character.ts";
import type { Tile } from "../core/scene/picture.ts";
import { type Moment, momentAt, momentOfFrame, STILL, seedOfFrame } from "../core/time/frames.ts";
import { dropBlobs } from "./blobs.ts";
import { announce, inTransaction, type Queryable } from "./database.ts";

/** Free space in gigabytes below which new prints are refused; 2 unless INQUADRA_LEAST_FREE_GB says otherwise. */
export const leastFreeGb = (): number => Number(process.env.INQUADRA_LEAST_FREE_GB) || 2;

interface Row {
	id: string;
	shot_id: string;
	revision: string;
	width: number;
	height: number;
	samples: number;
	seed: number;
	noise_percent: number | null;
	spread: Spread;
	part: number[] | null;
	area: number[];
	state: PrintState;
	message: string | null;
	created_at: Date;
	started_at: Date | null;
	finished_at: Date | null;
	exr: string | null;
	thumbnail: string | null;
	pixels_sha256: string | null;
	ev100: number;
	rays: number;
	busy_ms: number;
	work_done: string;
	work: string;
	active: string;
	work_ahead: string | null;
	sequence: boolean;
	time_s: number | null;
	rate: Rate | null;
	frames: string;
	frames_done: string;
	first_frame: number;
	last_frame: number;
	steadied: number[] | null;
	videos: VideoLine[] | null;
}

const SELECT = `select p.id, p.shot_id, p.revision, p.width, p.height, p.samples, p.seed, p.noise_percent, p.spread, p.part, coalesce(p.area, p.part, array[0, 0, p.width, p.height]) as area, p.state, p.message, p.created_at, p.started_at,
  p.finished_at, p.sequence, p.time_s, p.document->'move'->>'rate' as rate, (p.document->'camera'->>'ev100')::float8 as ev100,
  case when p.sequence then (select json_agg(json_build_object('id', v.id, 'kind', v.kind, 'state', v.state, 'done', v.done, 'frames', f.frames_done,
    'blob', v.blob, 'message', v.message) order by v.created_at desc) from videos v where v.print_id = p.id) end as videos,
  f.exr, f.thumbnail, f.pixels_sha256, f.frames, f.frames_done, f.first_frame, f.last_frame, f.steadied,
  p.rays + n.rays as rays, p.busy_ms + n.busy_ms as busy_ms, p.work - n.work_less as work, p.work_done + n.work_done as work_done,
  (select count(*) from units u where u.print_id = p.id and u.lease_token is not null and u.lease_until > now()) as active,
  (select sum(q.work - q.work_done - coalesce((select sum(work_done + work_less) from progress g where g.print_id = q.id), 0)) from prints q
    where q.state in ('queued', 'tracing') and q.created_at < p.created_at and p.state in ('queued', 'tracing')) as work_ahead
  from prints p cross join lateral (
    select coalesce(sum(rays), 0) as rays, coalesce(sum(busy_ms), 0) as busy_ms, coalesce(sum(work_done), 0) as work_done,
      coalesce(sum(work_less), 0) as work_less
    from progress where print_id = p.id) n cross join lateral (
    select count(*) as frames, count(*) filter (where state = 'done') as frames_done, min(frame) as first_frame, max(frame) as last_frame,
      array_agg(frame order by frame) filter (where steady is not null) as steadied,
      (array_agg(thumbnail order by turn) filter (where thumbnail is not null))[1] as thumbnail,
      case when p.sequence then null else min(exr) end as exr, case when p.sequence then null else min(pixels_sha256) end as pixels_sha256
    from frames where print_id = p.id) f`;

/** Areas as the database has them. */
const areaOf = ([x, y, width, height]: number[]): Tile => ({ x, y, width, height });
export const partOf = (p: number[] | null): Tile | null => p && areaOf(p);
export const listed = ({ x, y, width, height }: Tile): number[] => [x, y, width, height];

function toLine(r: Row): PrintLine {
	const work = Number(r.work);
	const workDone = Number(r.work_done);
	const ended = r.state === "done" || r.state === "cancelled" || r.state === "failed";
	const done = r.state === "done" || r.state === "assembling" ? 1 : work ? workDone / work : 0;
	const workers = Math.max(1, Number(r.active));
	return {
		id: r.id,
		shotId: r.shot_id,
		revision: Number(r.revision),
		width: r.width,
		height: r.height,
		samples: r.samples,
		seed: r.seed,
		noisePercent: r.noise_percent,
		spread: r.spread,
		part: partOf(r.part),
		area: areaOf(r.area),
		state: r.state,
		message: r.message,
		createdAt: r.created_at.toISOString(),
		finishedAt: r.finished_at?.toISOString() ?? null,
		exr: r.exr,
		thumbnail: r.thumbnail,
		pixelsSha256: r.pixels_sha256,
		ev100: r.ev100,
		rays: r.rays,
		seconds: r.finished_at && r.started_at ? (r.finished_at.getTime() - r.started_at.getTime()) / 1000 : null,
		done,
		samplesLeft: ended ? 0 : work - workDone,
		samplesAhead: Number(r.work_ahead ?? 0),
		secondsLeft:
			r.state === "tracing" && workDone > 0 ? ((r.busy_ms / workDone) * (work - workDone)) / workers / 1000 : null,
		timeS: r.time_s,
		sequence: r.sequence
			? {
					frames: Number(r.frames),
					done: Number(r.frames_done),
					first: r.first_frame,
					last: r.last_frame,
					steadied: r.steadied ?? [],
					rate: r.rate ?? "24",
					videos: r.videos ?? [],
				}
			: null,
	};
}

export interface PrintOrder {
	width: number;
	height: number;
	samples: number;
	seed: number;
	noisePercent: number | null;
	/** Where samples go when no noise says how many; everywhere alike when nothing says so. */
	spread?: Spread;
	/** Each light, fog and openness as layers of their own. */
	layers?: boolean;
	/** Pixels that are printed; the whole picture when null or nothing. */
	part?: Tile | null;
	/** Frames of the move, in the order in which they are wanted; none for a still. */
	frames?: readonly number[] | null;
	/** Moment of the move that a still shows, seconds; the document as it is when null or nothing. */
	timeS?: number | null;
	/** All frames have the same noise. */
	steadyNoise?: boolean;
}

/** Orders a print of a document as it stands now. */
export async function orderPrint(
	pool: pg.Pool,
	shotId: string,
	revision: number,
	document: ShotDocument,
	order: PrintOrder,
): Promise<string> {
	const id = randomUUID().slice(0, 8);
	const area = tracedArea(order.part ?? null, order, document.finish, document.print.overscan);
	const frames = order.frames ?? [0];
	await inTransaction(pool, async (client) => {
		await client.query(
			`insert into prints (id, shot_id, revision, document, width, height, samples, seed, noise_percent, layers, part, area, work, sequence, time_s, steady_noise, spread)
			 values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17)`,
			[
				id,
				shotId,
				revision,
				JSON.stringify(document),
				order.width,
				order.height,
				order.samples,
				order.seed,
				order.noisePercent,
				order.layers ?? false,
				order.part ? listed(order.part) : null,
				listed(area),
				order.samples * area.width * area.height * frames.length,
				!!order.frames,
				order.timeS ?? null,
				order.steadyNoise ?? false,
				order.noisePercent === null ? (order.spread ?? "even") : "even",
			],
		);
		await client.query(
			"insert into frames (print_id, frame, turn) select $1, frame, turn from unnest($2::int[]) with ordinality as t(frame, turn)",
			[id, frames],
		);
		await announce(client, { kind: "work", id });
		await announce(client, { kind: "print", id });
	});
	return id;
}

export async function readPrint(db: Queryable, id: string): Promise<PrintLine | null> {
	const r = await db.query<Row>(`${SELECT} where p.id = $1`, [id]);
	return r.rows[0] ? toLine(r.rows[0]) : null;
}

/** How a print stands, without its figures; null when it is gone. */
export async function stateOfPrint(db: Queryable, id: string): Promise<PrintState | null> {
	const r = await db.query<{ state: PrintState }>("select state from prints where id = $1", [id]);
	return r.rows[0]?.state ?? null;
}

export async function listPrints(db: Queryable, shotId: string): Promise<PrintLine[]> {
	const r = await db.query<Row>(`${SELECT} where p.shot_id = $1 order by p.created_at desc limit 200`, [shotId]);
	return r.rows.map(toLine);
}

/** Stops a print that waits or is traced. False when there is nothing to stop. */
export async function cancelPrint(pool: pg.Pool, id: string): Promise<boolean> {
	return inTransaction(pool, async (client) => {
		const r = await client.query(
			"update prints set state = 'cancelled', finished_at = now() where id = $1 and state in ('queued', 'tracing', 'paused')",
			[id],
		);
		if (r.rowCount === 0) return false;
		await deleteUnits(client, id);
		await announce(client, { kind: "print", id });
		return true;
	});
}

/** Forgets the units of a print, or of one of its frames, that needs them no more. Its row is locked by the caller. */
export async function deleteUnits(client: pg.PoolClient, id: string, frame: number | null = null): Promise<void> {
	const which = "print_id = $1 and ($2::int is null or frame = $2)";
	await client.query(`select from units where ${which} order by frame, tile for update`, [id, frame]);
	await client.query(`delete from units where ${which}`, [id, frame]);
	await foldProgress(client, id);
}

/** Makes what units have added to a print its own, so that few rows tell how it stands. One statement, as short as it can be. */
export async function foldProgress(db: Queryable, id: string): Promise<void> {
	await db.query(
		`with gone as (delete from progress where print_id = $1 returning *)
		 update prints p set rays = p.rays + n.rays, busy_ms = p.busy_ms + n.busy_ms, work_done = p.work_done + n.work_done,
		   work = p.work - n.work_less
		 from (select sum(rays) as rays, sum(busy_ms) as busy_ms, sum(work_done) as work_done, sum(work_less) as work_less
		   from gone having count(*) > 0) n
		 where p.id = $1`,
		[id],
	);
}

/** Pauses a print that waits or is traced, or lets it go on. What is traced stays. False when there is nothing to do. */
export async function pausePrint(pool: pg.Pool, id: string, paused: boolean): Promise<boolean> {
	const r = paused
		? await pool.query("update prints set state = 'paused' where id = $1 and state in ('queued', 'tracing')", [id])
		: await pool.query(
				"update prints set message = null, state = case when started_at is null then 'queued' else 'tracing' end where id = $1 and state = 'paused'",
				[id],
			);
	if (r.rowCount === 0) return false;
	await announce(pool, { kind: "print", id });
	if (!paused) await announce(pool, { kind: "work", id });
	return true;
}

export async function deletePrint(pool: pg.Pool, id: string): Promise<boolean> {
	return inTransaction(pool, async (client) => {
		const r = await client.query("select from prints where id = $1 for update", [id]);
		if (r.rowCount === 0) return false;
		const files = await client.query<{ hash: string | null }>(
			"select unnest(array[exr, thumbnail, steady]) as hash from frames where print_id = $1 union select blob from videos where print_id = $1",
			[id],
		);
		await deleteUnits(client, id);
		await client.query("delete from prints where id = $1", [id]);
		await dropBlobs(
			client,
			files.rows.map((f) => f.hash),
		);
		await announce(client, { kind: "print", id });
		return true;
	});
}

export interface PrintWork {
	id: string;
	title: string;
	document: ShotDocument;
	width: number;
	height: number;
	samples: number;
	seed: number;
	noisePercent: number | null;
	spread: Spread;
	layers: boolean;
	part: Tile | null;
	/** Pixels that are traced for it. */
	area: Tile;
	/** It is one of the frames of a move. */
	sequence: boolean;
	/** Moment of the move that a still shows. */
	timeS: number | null;
	steadyNoise: boolean;
}

/** The moment that a print shows, or one of its frames. */
export function momentOf(
	{ document: { move }, sequence, timeS }: Pick<PrintWork, "document" | "sequence" | "timeS">,
	frame: number,
): Moment {
	if (!move) return STILL;
	if (sequence) return momentOfFrame(frame, move);
	return timeS === null ? STILL : momentAt(timeS, move);
}

/** Seed of the noise of a print, or of one of its frames. */
export const seedOf = ({ seed, sequence, steadyNoise }: PrintWork, frame: number): number =>
	sequence ? seedOfFrame(seed, frame, steadyNoise) : seed;

export async function readWork(db: Queryable, id: string): Promise<PrintWork | null> {
	const r = await db.query(
		`select id, document, width, height, samples, seed, noise_percent as "noisePercent", spread, layers, part, coalesce(area, part, array[0, 0, width, height]) as area, sequence, time_s as "timeS", steady_noise as "steadyNoise" from prints where id = $1`,
		[id],
	);
	const p = r.rows[0];
	return p
		? { ...p, part: partOf(p.part), area: areaOf(p.area), document: upgrade(p.document), title: p.document.title }
		: null;
}

/** Whether an error says that a disk is full: the database's, or the one here. */
export const isFull = (error: unknown): boolean =>
	["53100", "ENOSPC", "EDQUOT"].includes((error as { code?: string } | null)?.code ?? "");

/** What a message says of it. */
export const FULL = "The disk is full. Nothing is lost: make room, then let it go on.";

/** Pauses a print under way for which there is no room, so that nothing that was traced is lost. */
export async function pauseFull(pool: pg.Pool, id: string): Promise<void> {
	await pool.query(
		"update prints set state = 'paused', message = $2 where id = $1 and state in ('queued', 'tracing')",
		[id, FULL],
	);
	await announce(pool, { kind: "print", id });
}

/** Ends a print under way that cannot be traced. */
export async function failPrint(pool: pg.Pool, id: string, message: string): Promise<void> {
	await inTransaction(pool, async (client) => {
		const r = await client.query(
			"update prints set state = 'failed', message = $2, finished_at = now() where id = $1 and state in ('queued', 'tracing')",
			[id, message],
		);
		if (r.rowCount === 0) return;
		await deleteUnits(client, id);
		await announce(client, { kind: "print", id });
	});
}
