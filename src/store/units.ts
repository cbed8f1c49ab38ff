/**
 * Units of work: the next blocks of samples of one tile of a frame. Its sums travel with its row, so that it may be cut
 * anywhere between blocks and still adds in the same order. Units are claimed with SKIP LOCKED under a lease that their
 * worker renews; a lease that ran out is free for the next. They are made when their frame is opened, and go when it has
 * been put together.
 */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { samplesBetween } from "../core/scene/spread.ts";
import type { Queryable } from "./database.ts";

export const LEASE_SECONDS = 12;
export const RENEW_MS = 3000;

export interface Claim {
	printId: string;
	frame: number;
	tile: number;
	x: number;
	y: number;
	width: number;
	height: number;
	/** Samples that it has, and those that it is to have. */
	done: number;
	samples: number;
	token: string;
	sums: Buffer | null;
	firsts: Buffer | null;
	/** How many samples each of its pixels takes; as many as it is to have when nothing says so. */
	limits: Buffer | null;
	/** Samples after which it is to tell its noise, for it is decided by that where the others go. */
	look: number | null;
}

/** Numbers as they were before they were kept as bytes. */
export const numbersOf = (bytes: Buffer | null): Uint32Array | undefined =>
	bytes ? new Uint32Array(new Uint8Array(bytes).buffer) : undefined;

/** What a unit has now. */
export interface Returned {
	done: number;
	sums: Uint8Array;
	firsts: Uint8Array;
	/** When it was to be told now. */
	noise?: Uint8Array | null;
	/** It needs no more. */
	last?: boolean;
	rays: number;
	ms: number;
}

/** Which units are wanted: those of any print, of one, or of one of its frames. */
export interface Wanted {
	print?: string;
	frame?: number;
}

/** Takes a unit that nobody holds, of the oldest print that waits, its frames in their turn. */
export async function claimUnit(pool: pg.Pool, { print, frame }: Wanted = {}): Promise<Claim | null> {
	const token = randomUUID();
	const r = await pool.query(
		`update units set lease_token = $1, lease_until = now() + make_interval(secs => ${LEASE_SECONDS})
		 where (print_id, frame, tile) = (
		   select u.print_id, u.frame, u.tile from units u join prints p on p.id = u.print_id
		     join frames f on f.print_id = u.print_id and f.frame = u.frame
		   where p.state in ('queued', 'tracing') and ($2::text is null or p.id = $2) and ($3::int is null or u.frame = $3) and u.done < u.samples
		     and (u.lease_until is null or u.lease_until < now())
		   order by p.created_at, f.turn, u.done, u.tile for update of u skip locked limit 1)
		 returning print_id, frame, tile, x, y, width, height, done, samples, sums, firsts, limits,
		   (select look from frames f where f.print_id = units.print_id and f.frame = units.frame) as look`,
		[token, print ?? null, frame ?? null],
	);
	const u = r.rows[0];
	if (!u) return null;
	const { print_id: printId, ...unit } = u;
	await pool.query(
		"update prints set state = 'tracing', started_at = coalesce(started_at, now()) where id = $1 and state = 'queued'",
		[printId],
	);
	return { printId, ...unit, token };
}

/** Renews leases; returns the tokens that are still ours. */
export async function renewLeases(pool: pg.Pool, tokens: string[]): Promise<Set<string>> {
	const r = await pool.query<{ lease_token: string }>(
		`with ours as (select print_id, frame, tile from units where lease_token = any($1::uuid[]) order by print_id, frame, tile for update)
		 update units u set lease_until = now() + make_interval(secs => ${LEASE_SECONDS}) from ours
		 where u.print_id = ours.print_id and u.frame = ours.frame and u.tile = ours.tile and u.lease_token = any($1::uuid[])
		 returning u.lease_token`,
		[tokens],
	);
	return new Set(r.rows.map((x) => x.lease_token));
}

/**
 * Writes what a unit has now. Does nothing (false) when the lease was lost or the print is gone. One statement: a worker that is frozen at
 * any moment holds no lock.
 */
export async function returnUnit(
	pool: pg.Pool,
	claim: Claim,
	{ done, sums, firsts, noise = null, last = false, rays, ms }: Returned,
): Promise<boolean> {
	const pixels = claim.width * claim.height;
	const bytes = (of: Uint8Array) => Buffer.from(of.buffer as ArrayBuffer, of.byteOffset, of.byteLength);
	const r = await pool.query(
		`with back as (
		   update units set done = $5, samples = case when $9 then $5 else samples end, sums = $6, firsts = $7, noise = $15, lease_token = null, lease_until = null
		   where print_id = $1 and frame = $2 and tile = $3 and lease_token = $4 and done = $8 returning print_id),
		 added as (
		   insert into progress (print_id, rays, busy_ms, work_done, work_less) select print_id, $10::float8, $11::float8, $12::bigint, $13::bigint from back)
		 select pg_notify('inquadra', $14::text) from back`,
		[
			claim.printId,
			claim.frame,
			claim.tile,
			claim.token,
			done,
			bytes(sums),
			bytes(firsts),
			claim.done,
			last,
			rays,
			ms,
			samplesBetween(pixels, claim.done, done, numbersOf(claim.limits)),
			// A tile that needs no more samples takes those that it does without from the whole.
			last ? (claim.samples - done) * pixels : 0,
			JSON.stringify({ kind: "print", id: claim.printId }),
			noise && bytes(noise),
		],
	);
	return (r.rowCount ?? 0) > 0;
}

/** Gives a unit back as it was. */
export async function dropUnit(db: Queryable, { printId, frame, tile, token }: Claim): Promise<void> {
	await db.query(
		`update units set lease_token = null, lease_until = null
		 where print_id = $1 and frame = $2 and tile = $3 and lease_token = $4`,
		[printId, frame, tile, token],
	);
}
