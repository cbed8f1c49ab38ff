/** Small frames of moves, kept for those who open a shot again. */
import type { Queryable } from "./database.ts";

export async function keepSmall(
	db: Queryable,
	shotId: string,
	{ frame, sign }: { frame: number; sign: string },
	packed: Uint8Array,
): Promise<void> {
	await db.query(
		`insert into small_frames (shot_id, frame, sign, data) values ($1, $2, $3, $4)
		 on conflict (shot_id, frame) do update set sign = excluded.sign, data = excluded.data`,
		[shotId, frame, sign, packed],
	);
}

/** All packed ones of a shot, by their frames. */
export async function listSmall(db: Queryable, shotId: string): Promise<Uint8Array[]> {
	const r = await db.query<{ data: Buffer }>("select data from small_frames where shot_id = $1 order by frame", [
		shotId,
	]);
	return r.rows.map(({ data }) => data);
}

/** Forgets those of frames that the move has no more. */
export async function dropSmall(db: Queryable, shotId: string, frames: number): Promise<void> {
	await db.query("delete from small_frames where shot_id = $1 and frame >= $2", [shotId, frames]);
}
