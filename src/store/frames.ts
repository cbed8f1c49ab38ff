/**
 * Frames of a print. They are opened in their turn, one after the other, as units are wanted, so that a move of thousands
 * needs no more room than what is in hand; each is put together by one worker as soon as its units are traced.
 */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { tilesOfPart } from "../core/scene/picture.ts";
import { lookAt } from "../core/scene/spread.ts";
import { announce, inTransaction, type Queryable } from "./database.ts";
import { deleteUnits, FULL } from "./prints.ts";
import { type Claim, claimUnit } from "./units.ts";

/** A frame that is put together by a worker that is not heard of for so long goes to the next. */
const ASSEMBLE_SECONDS = 20;

/** Makes the units of the next frame of the oldest print that waits, or of the given one. False when none waits. */
export async function openFrame(pool: pg.Pool, print?: string): Promise<boolean> {
	return inTransaction(pool, async (client) => {
		const p = await client.query(
			`select id, samples, spread, coalesce(area, part, array[0, 0, width, height]) as area from prints p
			 where state in ('queued', 'tracing') and ($1::text is null or id = $1)
			   and exists (select 1 from frames f where f.print_id = p.id and f.state = 'waiting')
			 order by created_at limit 1 for no key update`,
			[print ?? null],
		);
		const order = p.rows[0];
		if (!order) return false;
		const look = order.spread === "noise" ? lookAt(order.samples) : null;
		const f = await client.query<{ frame: number }>(
			`update frames set state = 'tracing', look = $2 where (print_id, frame) = (
			   select print_id, frame from frames where print_id = $1 and state = 'waiting' order by turn limit 1) returning frame`,
			[order.id, look],
		);
		// Another worker has opened the last one meanwhile.
		if (!f.rows[0]) return true;
		const [x, y, width, height] = order.area;
		const tiles = tilesOfPart({ x, y, width, height });
		await client.query(
			`insert into units (print_id, frame, tile, x, y, width, height, samples)
			 select $1, $2, t.tile, t.x, t.y, t.width, t.height, $3
			 from jsonb_to_recordset($4::jsonb) as t(tile int, x int, y int, width int, height int)`,
			[order.id, f.rows[0].frame, look ?? order.samples, JSON.stringify(tiles.map((t, tile) => ({ tile, ...t })))],
		);
		return true;
	});
}

/** A unit that nobody holds, of the given print or of the oldest that waits; frames are opened as they are wanted. */
export async function nextUnit(pool: pg.Pool, print?: string): Promise<Claim | null> {
	for (;;) {
		const claim = await claimUnit(pool, { print });
		if (claim) return claim;
		// Another worker may have opened the last one since that look.
		if (!(await openFrame(pool, print))) return claimUnit(pool, { print });
	}
}

/** A frame that is put together, and the token of the worker that does. */
export interface Assembly {
	id: string;
	frame: number;
	token: string;
}

/** Takes a frame whose units are all traced, to put it together. One worker gets it. */
export async function claimAssembly(pool: pg.Pool): Promise<Assembly | null> {
	const token = randomUUID();
	const r = await pool.query<{ print_id: string; frame: number }>(
		`update frames set state = 'assembling', assemble_token = $1, assemble_until = now() + make_interval(secs => ${ASSEMBLE_SECONDS})
		 where (print_id, frame) = (
		   select f.print_id, f.frame from frames f join prints p on p.id = f.print_id
		   where p.state in ('tracing', 'assembling') and f.look is null and (f.state = 'tracing' or (f.state = 'assembling' and f.assemble_until < now()))
		     and not exists (select 1 from units u where u.print_id = f.print_id and u.frame = f.frame and u.done < u.samples)
		   order by p.created_at, f.turn for update of f skip locked limit 1)
		 returning print_id, frame`,
		[token],
	);
	const f = r.rows[0];
	if (!f) return null;
	await pool.query("update prints set state = 'assembling' where id = $1 and state = 'tracing' and not sequence", [
		f.print_id,
	]);
	return { id: f.print_id, frame: f.frame, token };
}

/** Keeps the claim of the worker that puts a frame together: taking the noise out of a large one takes minutes. */
export async function renewAssembly(pool: pg.Pool, { id, frame, token }: Assembly): Promise<void> {
	await pool.query(
		`update frames set assemble_until = now() + make_interval(secs => ${ASSEMBLE_SECONDS})
		 where print_id = $1 and frame = $2 and assemble_token = $3 and state = 'assembling'`,
		[id, frame, token],
	);
}

/** Ends an assembly whose claim is still held. False, and nothing, when it has gone to another, or the print has been called off. */
async function endAssembly(
	pool: pg.Pool,
	{ id, frame, token }: Assembly,
	change: string,
	values: unknown[],
	then: (client: pg.PoolClient) => Promise<void>,
): Promise<boolean> {
	return inTransaction(pool, async (client) => {
		const p = await client.query<{ state: string }>("select state from prints where id = $1 for update", [id]);
		if (!["tracing", "assembling", "paused"].includes(p.rows[0]?.state)) return false;
		const r = await client.query(
			`update frames set assemble_token = null, ${change}
			 where print_id = $1 and frame = $2 and assemble_token = $3 and state = 'assembling'`,
			[id, frame, token, ...values],
		);
		if (r.rowCount === 0) return false;
		await then(client);
		await announce(client, { kind: "print", id });
		return true;
	});
}

/** Hands in a frame that has been put together; its files are kept already. With the last frame the print is done. */
export const finishAssembly = (
	pool: pg.Pool,
	assembly: Assembly,
	files: { exr: string; thumbnail: string; pixelsSha256: string },
): Promise<boolean> =>
	endAssembly(
		pool,
		assembly,
		"state = 'done', exr = $4, thumbnail = $5, pixels_sha256 = $6",
		[files.exr, files.thumbnail, files.pixelsSha256],
		async (client) => {
			await deleteUnits(client, assembly.id, assembly.frame);
			await client.query(
				`update prints set state = 'done', finished_at = now() where id = $1
				   and not exists (select 1 from frames where print_id = $1 and state <> 'done')`,
				[assembly.id],
			);
		},
	);

/** Says that a frame could not be put together, which ends its print; frames that are done stay. */
export const failAssembly = (pool: pg.Pool, assembly: Assembly, message: string): Promise<boolean> =>
	endAssembly(pool, assembly, "state = 'waiting'", [], async (client) => {
		await deleteUnits(client, assembly.id);
		await client.query("update prints set state = 'failed', finished_at = now(), message = $2 where id = $1", [
			assembly.id,
			message,
		]);
	});

/** Pauses a print that there was no room for while a frame was put together. What was traced stays. */
export const pauseAssembly = (pool: pg.Pool, assembly: Assembly): Promise<boolean> =>
	endAssembly(pool, assembly, "state = 'tracing'", [], async (client) => {
		await client.query("update prints set state = 'paused', message = $2 where id = $1", [assembly.id, FULL]);
	});

export interface FrameLine {
	frame: number;
	state: "waiting" | "tracing" | "assembling" | "done";
	exr: string | null;
	thumbnail: string | null;
	pixelsSha256: string | null;
	/** The picture with its neighbours taken in. */
	steady: string | null;
}

/** Frames of a print by their numbers, or the given one alone. */
export async function listFrames(db: Queryable, id: string, frame: number | null = null): Promise<FrameLine[]> {
	const r = await db.query<FrameLine>(
		`select frame, state, exr, thumbnail, pixels_sha256 as "pixelsSha256", steady from frames
		 where print_id = $1 and ($2::int is null or frame = $2) order by frame`,
		[id, frame],
	);
	return r.rows;
}

/** Frames of a print that are done, with their files. */
export async function doneFrames(
	db: Queryable,
	id: string,
): Promise<{ frame: number; exr: string; steady: string | null }[]> {
	return (await listFrames(db, id)).flatMap(({ frame, exr, steady }) => (exr ? [{ frame, exr, steady }] : []));
}
