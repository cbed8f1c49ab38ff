/**
 * Prints and their units of work. A unit is the next blocks of samples of one tile; its sums travel with its row, so
 * that it may be cut anywhere between blocks and still adds in the same order. Units are claimed with SKIP LOCKED under
 * a lease that its worker renews; a lease that ran out is free for the next.
 *
 * Locks are taken in one order, so that nobody waits in a ring: the print, then its units by tile.
 */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { upgrade } from "../core/doc/migrations.ts";
import type { PrintLine, PrintState } from "../core/doc/records.ts";
import type { ShotDocument } from "../core/doc/schema.ts";
import { type Tile, tilesOfPart } from "../core/scene/picture.ts";
import { dropBlobs } from "./blobs.ts";
import { announce, inTransaction, type Queryable } from "./database.ts";

export const LEASE_SECONDS = 12;
export const RENEW_MS = 3000;
/** A print that is put together by a worker that is not heard of for so long goes to the next. */
const ASSEMBLE_SECONDS = 20;
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
	part: number[] | null;
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
	blocks_done: string;
	blocks: string;
	active: string;
	blocks_ahead: string | null;
}

const SELECT = `select p.id, p.shot_id, p.revision, p.width, p.height, p.samples, p.seed, p.noise_percent, p.part, p.state, p.message, p.created_at, p.started_at,
  p.finished_at, p.exr, p.thumbnail, p.pixels_sha256, (p.document->'camera'->>'ev100')::float8 as ev100,
  p.rays + n.rays as rays, p.busy_ms + n.busy_ms as busy_ms, p.blocks - n.blocks_less as blocks, p.blocks_done + n.blocks_done as blocks_done,
  (select count(*) from units u where u.print_id = p.id and u.lease_token is not null and u.lease_until > now()) as active,
  (select sum(q.blocks - q.blocks_done - coalesce((select sum(blocks_done + blocks_less) from progress g where g.print_id = q.id), 0)) from prints q
    where q.state in ('queued', 'tracing') and q.created_at < p.created_at and p.state in ('queued', 'tracing')) as blocks_ahead
  from prints p cross join lateral (
    select coalesce(sum(rays), 0) as rays, coalesce(sum(busy_ms), 0) as busy_ms, coalesce(sum(blocks_done), 0) as blocks_done,
      coalesce(sum(blocks_less), 0) as blocks_less
    from progress where print_id = p.id) n`;

const partOf = (p: number[] | null): Tile | null => p && { x: p[0], y: p[1], width: p[2], height: p[3] };

function toLine(r: Row): PrintLine {
	const blocks = Number(r.blocks);
	const doneBlocks = Number(r.blocks_done);
	const ended = r.state === "done" || r.state === "cancelled" || r.state === "failed";
	const done = r.state === "done" || r.state === "assembling" ? 1 : blocks ? doneBlocks / blocks : 0;
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
		part: partOf(r.part),
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
		samplesLeft: ended ? 0 : (blocks - doneBlocks) * 16,
		samplesAhead: Number(r.blocks_ahead ?? 0) * 16,
		secondsLeft:
			r.state === "tracing" && doneBlocks > 0
				? ((r.busy_ms / doneBlocks) * (blocks - doneBlocks)) / workers / 1000
				: null,
	};
}

export interface PrintOrder {
	width: number;
	height: number;
	samples: number;
	seed: number;
	noisePercent: number | null;
	/** Each light, fog and openness as layers of their own. */
	layers?: boolean;
	/** Pixels that are printed; the whole picture when null or nothing. */
	part?: Tile | null;
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
	const pixels = order.part ?? { x: 0, y: 0, width: order.width, height: order.height };
	await inTransaction(pool, async (client) => {
		await client.query(
			"insert into prints (id, shot_id, revision, document, width, height, samples, seed, noise_percent, layers, part, blocks) values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)",
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
				order.part ? [order.part.x, order.part.y, order.part.width, order.part.height] : null,
				(order.samples / 16) * pixels.width * pixels.height,
			],
		);
		const tiles = tilesOfPart(pixels);
		await client.query(
			`insert into units (print_id, tile, x, y, width, height, blocks)
			 select $1, t.tile, t.x, t.y, t.width, t.height, $3 from jsonb_to_recordset($2::jsonb) as t(tile int, x int, y int, width int, height int)`,
			[id, JSON.stringify(tiles.map((t, tile) => ({ tile, ...t }))), order.samples / 16],
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

/** Forgets the units of a print that needs them no more. Its row is locked by the caller. */
export async function deleteUnits(client: pg.PoolClient, id: string): Promise<void> {
	await client.query("select from units where print_id = $1 order by tile for update", [id]);
	await client.query("delete from units where print_id = $1", [id]);
	await foldProgress(client, id);
}

/** Makes what units have added to a print its own, so that few rows tell how it stands. One statement, as short as it can be. */
export async function foldProgress(db: Queryable, id: string): Promise<void> {
	await db.query(
		`with gone as (delete from progress where print_id = $1 returning *)
		 update prints p set rays = p.rays + n.rays, busy_ms = p.busy_ms + n.busy_ms, blocks_done = p.blocks_done + n.blocks_done,
		   blocks = p.blocks - n.blocks_less
		 from (select sum(rays) as rays, sum(busy_ms) as busy_ms, sum(blocks_done) as blocks_done, sum(blocks_less) as blocks_less
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
		const r = await client.query<{ exr: string | null; thumbnail: string | null }>(
			"select exr, thumbnail from prints where id = $1 for update",
			[id],
		);
		if (r.rowCount === 0) return false;
		await deleteUnits(client, id);
		await client.query("delete from prints where id = $1", [id]);
		await dropBlobs(client, [r.rows[0].exr, r.rows[0].thumbnail]);
		await announce(client, { kind: "print", id });
		return true;
	});
}

export interface Claim {
	printId: string;
	tile: number;
	x: number;
	y: number;
	width: number;
	height: number;
	nextBlock: number;
	blocks: number;
	token: string;
	sums: Buffer | null;
	firsts: Buffer | null;
}

/** Takes a unit that nobody holds, of the given print or of the oldest that waits. */
export async function claimUnit(pool: pg.Pool, printId: string | null): Promise<Claim | null> {
	const token = randomUUID();
	const r = await pool.query(
		`update units set lease_token = $1, lease_until = now() + make_interval(secs => ${LEASE_SECONDS})
		 where (print_id, tile) = (
		   select u.print_id, u.tile from units u join prints p on p.id = u.print_id
		   where p.state in ('queued', 'tracing') and ($2::text is null or p.id = $2) and u.next_block < u.blocks
		     and (u.lease_until is null or u.lease_until < now())
		   order by p.created_at, u.next_block, u.tile for update of u skip locked limit 1)
		 returning print_id, tile, x, y, width, height, next_block, blocks, sums, firsts`,
		[token, printId],
	);
	const u = r.rows[0];
	if (!u) return null;
	await pool.query(
		"update prints set state = 'tracing', started_at = coalesce(started_at, now()) where id = $1 and state = 'queued'",
		[u.print_id],
	);
	return {
		printId: u.print_id,
		tile: u.tile,
		x: u.x,
		y: u.y,
		width: u.width,
		height: u.height,
		nextBlock: u.next_block,
		blocks: u.blocks,
		token,
		sums: u.sums,
		firsts: u.firsts,
	};
}

/** Renews leases; returns the tokens that are still ours. */
export async function renewLeases(pool: pg.Pool, tokens: string[]): Promise<Set<string>> {
	const r = await pool.query<{ lease_token: string }>(
		`with ours as (select print_id, tile from units where lease_token = any($1::uuid[]) order by print_id, tile for update)
		 update units u set lease_until = now() + make_interval(secs => ${LEASE_SECONDS}) from ours
		 where u.print_id = ours.print_id and u.tile = ours.tile and u.lease_token = any($1::uuid[]) returning u.lease_token`,
		[tokens],
	);
	return new Set(r.rows.map((x) => x.lease_token));
}

/**
 * Writes what a unit has now; `last` says that it needs no more. Does nothing (false) when the lease was lost or the print is
 * gone. One statement: a worker that is frozen at any moment holds no lock.
 */
export async function returnUnit(
	pool: pg.Pool,
	claim: Claim,
	nextBlock: number,
	sums: Uint8Array,
	firsts: Uint8Array,
	cost: { rays: number; ms: number },
	last = false,
): Promise<boolean> {
	const pixels = claim.width * claim.height;
	const r = await pool.query(
		`with back as (
		   update units set next_block = $4, blocks = case when $8 then $4 else blocks end, sums = $5, firsts = $6, lease_token = null, lease_until = null
		   where print_id = $1 and tile = $2 and lease_token = $3 and next_block = $7 returning print_id),
		 added as (
		   insert into progress (print_id, rays, busy_ms, blocks_done, blocks_less) select print_id, $9::float8, $10::float8, $11::bigint, $12::bigint from back)
		 select pg_notify('inquadra', $13::text) from back`,
		[
			claim.printId,
			claim.tile,
			claim.token,
			nextBlock,
			Buffer.from(sums.buffer as ArrayBuffer, sums.byteOffset, sums.byteLength),
			Buffer.from(firsts.buffer as ArrayBuffer, firsts.byteOffset, firsts.byteLength),
			claim.nextBlock,
			last,
			cost.rays,
			cost.ms,
			(nextBlock - claim.nextBlock) * pixels,
			// A tile that needs no more samples takes those that it does without from the whole.
			last ? (claim.blocks - nextBlock) * pixels : 0,
			JSON.stringify({ kind: "print", id: claim.printId }),
		],
	);
	return (r.rowCount ?? 0) > 0;
}

/** Gives a unit back as it was. */
export async function dropUnit(pool: pg.Pool, claim: Claim): Promise<void> {
	await pool.query(
		"update units set lease_token = null, lease_until = null where print_id = $1 and tile = $2 and lease_token = $3",
		[claim.printId, claim.tile, claim.token],
	);
}

/** A print that is put together, and the token of the worker that does. */
export interface Assembly {
	id: string;
	token: string;
}

/** Takes a print whose units are all traced, to put it together. One worker gets it. */
export async function claimAssembly(pool: pg.Pool): Promise<Assembly | null> {
	const token = randomUUID();
	const r = await pool.query<{ id: string }>(
		`update prints set state = 'assembling', assemble_token = $1, assemble_until = now() + make_interval(secs => ${ASSEMBLE_SECONDS})
		 where id = (select p.id from prints p where (p.state = 'tracing' or (p.state = 'assembling' and p.assemble_until < now()))
		   and not exists (select 1 from units u where u.print_id = p.id and u.next_block < u.blocks)
		   order by p.created_at for update skip locked limit 1)
		 returning id`,
		[token],
	);
	return r.rows[0] ? { id: r.rows[0].id, token } : null;
}

const OURS = "id = $1 and assemble_token = $2 and state = 'assembling'";

/** Keeps the claim of the worker that puts a print together: taking the noise out of a large one takes minutes. */
export async function renewAssembly(pool: pg.Pool, { id, token }: Assembly): Promise<void> {
	await pool.query(
		`update prints set assemble_until = now() + make_interval(secs => ${ASSEMBLE_SECONDS}) where ${OURS}`,
		[id, token],
	);
}

/** Ends an assembly whose claim is still held, and with it the units. False, and nothing, when it has gone to another. */
async function endAssembly(
	pool: pg.Pool,
	{ id, token }: Assembly,
	change: string,
	values: unknown[],
	keepUnits = false,
): Promise<boolean> {
	return inTransaction(pool, async (client) => {
		const r = await client.query(`update prints set assemble_token = null, ${change} where ${OURS}`, [
			id,
			token,
			...values,
		]);
		if (r.rowCount === 0) return false;
		if (!keepUnits) await deleteUnits(client, id);
		await announce(client, { kind: "print", id });
		return true;
	});
}

/** Hands in a print that has been put together; its files are kept already. */
export const finishAssembly = (
	pool: pg.Pool,
	assembly: Assembly,
	files: { exr: string; thumbnail: string; pixelsSha256: string },
): Promise<boolean> =>
	endAssembly(pool, assembly, "state = 'done', finished_at = now(), exr = $3, thumbnail = $4, pixels_sha256 = $5", [
		files.exr,
		files.thumbnail,
		files.pixelsSha256,
	]);

/** Says that a print could not be put together. */
export const failAssembly = (pool: pg.Pool, assembly: Assembly, message: string): Promise<boolean> =>
	endAssembly(pool, assembly, "state = 'failed', finished_at = now(), message = $3", [message]);

/** Pauses a print that there was no room for while it was put together. What was traced stays. */
export const pauseAssembly = (pool: pg.Pool, assembly: Assembly): Promise<boolean> =>
	endAssembly(pool, assembly, "state = 'paused', message = $3", [FULL], true);

export interface PrintWork {
	id: string;
	title: string;
	document: ShotDocument;
	width: number;
	height: number;
	samples: number;
	seed: number;
	noisePercent: number | null;
	layers: boolean;
	part: Tile | null;
}

export async function readWork(db: Queryable, id: string): Promise<PrintWork | null> {
	const r = await db.query(
		`select id, document, width, height, samples, seed, noise_percent as "noisePercent", layers, part from prints where id = $1`,
		[id],
	);
	const p = r.rows[0];
	return p ? { ...p, part: partOf(p.part), document: upgrade(p.document), title: p.document.title } : null;
}

/** Whether an error says that a disk is full: the database's, or the one here. */
export const isFull = (error: unknown): boolean =>
	["53100", "ENOSPC", "EDQUOT"].includes((error as { code?: string } | null)?.code ?? "");

const FULL = "The disk is full. Nothing is lost: make room, then let it go on.";

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
