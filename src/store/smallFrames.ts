/** Small frames of moves, kept for those who open a shot again. */
import type { Queryable } from "./database.ts";

/** Keeps one in the place of that of its frame, and forgets those of frames that the move has no more. False when it has not this one. */
export async function keepSmall(
	db: Queryable,
	shotId: string,
	{ frame, sign }: { frame: number; sign: string },
	packed: Uint8Array,
): Promise<boolean> {
	const r = await db.query(
		`with move as (select coalesce((document->'move'->>'frames')::int, 0) as frames from shots where id = $1),
		   gone as (delete from small_frames s using move where s.shot_id = $1 and s.frame >= move.frames)
		 insert into small_frames (shot_id, frame, sign, data) select $1, $2, $3, $4 from move where $2 < move.frames
		 on conflict (shot_id, frame) do update set sign = excluded.sign, data = excluded.data`,
		[shotId, frame, sign, packed],
	);
	return (r.rowCount ?? 0) > 0;
}

/** All packed ones of a shot, by their frames. */
export async function listSmall(db: Queryable, shotId: string): Promise<Uint8Array[]> {
	const r = await db.query<{ data: Buffer }>("select data from small_frames where shot_id = $1 order by frame", [
		shotId,
	]);
	return r.rows.map(({ data }) => data);
}
