/**
 * Where the samples of a frame go: decided once, when all its units have told their noise, and kept with them. It depends on these alone, so
 * that it is the same whoever decides, and does not matter who is first.
 */
import type pg from "pg";
import type { Tile } from "../core/scene/picture.ts";
import { mostOf, SeenNoise } from "../core/scene/spread.ts";
import { announce, inTransaction } from "./database.ts";

/** A frame that waits for it. */
export interface Undecided {
	id: string;
	frame: number;
}

/** The first frame of which all units have told their noise. */
export async function undecidedFrame(pool: pg.Pool): Promise<Undecided | null> {
	const r = await pool.query<Undecided>(
		`select f.print_id as id, f.frame from frames f join prints p on p.id = f.print_id
		 where p.state = 'tracing' and f.state = 'tracing' and f.look is not null
		   and not exists (select 1 from units u where u.print_id = f.print_id and u.frame = f.frame and u.done < u.samples)
		 order by p.created_at, f.turn limit 1`,
	);
	return r.rows[0] ?? null;
}

/** Decides it for a frame of an area. `exposure` brings cd/m² to what is shown. */
export async function decideFrame(
	pool: pg.Pool,
	{ id, frame }: Undecided,
	{ area, samples }: { area: Tile; samples: number },
	exposure: number,
): Promise<void> {
	const told = await pool.query<Tile & { tile: number; noise: Buffer | null }>(
		"select tile, x, y, width, height, noise from units where print_id = $1 and frame = $2 order by tile",
		[id, frame],
	);
	if (told.rows.length === 0) return;
	const seen = new SeenNoise(area);
	for (const { tile, noise, ...where } of told.rows) {
		// It has been decided, or called off, meanwhile.
		if (!noise) return;
		seen.take(where, new Float32Array(new Uint8Array(noise).buffer));
	}
	const spread = seen.spread(samples, exposure);
	await inTransaction(pool, async (client) => {
		await client.query("select from prints where id = $1 for no key update", [id]);
		const r = await client.query(
			"update frames set look = null where print_id = $1 and frame = $2 and state = 'tracing' and look is not null",
			[id, frame],
		);
		if (r.rowCount === 0) return;
		for (const { tile, noise: _, ...where } of told.rows) {
			const limits = spread.of(where);
			await client.query(
				"update units set samples = $4, limits = $5, noise = null where print_id = $1 and frame = $2 and tile = $3",
				[id, frame, tile, mostOf(limits), Buffer.from(limits.buffer as ArrayBuffer)],
			);
		}
		// Blocks of samples do not always come out at what was ordered.
		await client.query(
			"insert into progress (print_id, rays, busy_ms, work_done, work_less) values ($1, 0, 0, 0, $2)",
			[id, samples * area.width * area.height - spread.all],
		);
		await announce(client, { kind: "work", id });
	});
}
