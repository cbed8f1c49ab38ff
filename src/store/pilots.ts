/** Pilots: asked for by the web server, traced by a press worker that has nothing to print. */
import { randomUUID } from "node:crypto";
import type pg from "pg";
import { upgrade } from "../core/doc/migrations.ts";
import type { ShotDocument } from "../core/doc/schema.ts";
import type { Tile } from "../core/scene/picture.ts";
import type { Pilot } from "../core/scene/pilot.ts";
import { announce } from "./database.ts";
import { listed, partOf } from "./prints.ts";

const WAIT_MS = 20_000;
const LOOK_MS = 100;

export interface PilotOrder {
	document: ShotDocument;
	width: number;
	height: number;
	part: Tile | null;
}

/** Asks for a pilot and waits for it. Null when no worker had time for it. */
export async function askPilot(pool: pg.Pool, order: PilotOrder): Promise<Pilot | null> {
	const id = randomUUID();
	await pool.query("delete from pilots where created_at < now() - interval '1 minute'");
	await pool.query("insert into pilots (id, document, width, height, part) values ($1, $2, $3, $4, $5)", [
		id,
		JSON.stringify(order.document),
		order.width,
		order.height,
		order.part && listed(order.part),
	]);
	await announce(pool, { kind: "work", id });
	try {
		for (const until = Date.now() + WAIT_MS; Date.now() < until; await new Promise((r) => setTimeout(r, LOOK_MS))) {
			const r = await pool.query<{ result: Pilot | null }>("select result from pilots where id = $1", [id]);
			const result = r.rows[0]?.result;
			if (result) return result;
			if (!r.rows[0]) return null;
		}
		return null;
	} finally {
		await pool.query("delete from pilots where id = $1", [id]);
	}
}

/** Whether prints wait or are traced: then nobody has time for a pilot. */
export async function pressBusy(pool: pg.Pool): Promise<boolean> {
	return (
		((await pool.query("select 1 from prints where state in ('queued', 'tracing', 'assembling') limit 1")).rowCount ??
			0) > 0
	);
}

/** Takes the oldest pilot that somebody still waits for. */
export async function claimPilot(pool: pg.Pool): Promise<(PilotOrder & { id: string }) | null> {
	const r = await pool.query<Omit<PilotOrder, "part"> & { id: string; part: number[] | null }>(
		`update pilots set claimed_at = now()
		 where id = (select id from pilots where claimed_at is null and created_at > now() - make_interval(secs => ${WAIT_MS / 1000})
		   order by created_at for update skip locked limit 1)
		 returning id, document, width, height, part`,
	);
	const p = r.rows[0];
	if (!p) return null;
	return {
		...p,
		document: upgrade(p.document),
		part: partOf(p.part),
	};
}

/** Hands the result to the one who waits. */
export const answerPilot = (pool: pg.Pool, id: string, result: Pilot | null): Promise<unknown> =>
	result
		? pool.query("update pilots set result = $2 where id = $1", [id, JSON.stringify(result)])
		: pool.query("delete from pilots where id = $1", [id]);
