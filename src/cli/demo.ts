/** Keeps the demo shots in an empty database: their references, their edits one by one, and the stored print. */
import { randomUUID } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import type pg from "pg";
import { lanternDocument } from "../../demo/checks.ts";
import { salinaEdits } from "../../demo/salina.ts";
import { blankShot } from "../core/doc/defaults.ts";
import type { Edit } from "../core/doc/edits.ts";
import { putBlob } from "../store/blobs.ts";
import { inTransaction } from "../store/database.ts";
import { pngFile, readPrintFile } from "../store/printFiles.ts";
import { commitEdit, createShot, makeCheckpoint } from "../store/shots.ts";

const asset = (name: string) => new URL(`../demo/assets/${name}`, import.meta.url);

async function keepSalina(pool: pg.Pool): Promise<string> {
	const shot = await createShot(pool, blankShot("Salina, first light"), "salina");
	let { sequence } = shot;
	const edits: Edit[] = salinaEdits();
	if (existsSync(asset("reference.png"))) {
		const reference = await inTransaction(pool, (client) => putBlob(client, readFileSync(asset("reference.png")), "image/png"));
		const { widthPx, heightPx } = { widthPx: 1200, heightPx: 649 };
		edits.splice(
			2,
			0,
			{ name: "reference.add", reference: { id: "reference", name: "Brine ponds, evening", blob: reference, widthPx, heightPx } },
			{ name: "reference.show", mode: "off" },
		);
	}
	for (const edit of edits) ({ sequence } = await commitEdit(pool, shot.id, edit, randomUUID(), sequence));
	if (existsSync(asset("print.exr"))) await keepPrint(pool, shot.id);
	return shot.id;
}

/** Stores the print that ships with the demo, as if it had been traced here. */
async function keepPrint(pool: pg.Pool, shotId: string): Promise<void> {
	const file = readFileSync(asset("print.exr"));
	const { width, height, rgb, clean } = readPrintFile(file);
	const shot = (await pool.query("select document, head from shots where id = $1", [shotId])).rows[0];
	const thumbnail = await pngFile(clean() ?? rgb(), width, height, shot.document.camera.ev100, shot.document.finish, 960);
	const small = await inTransaction(pool, async (client) => {
		const exr = await putBlob(client, file, "image/x-exr");
		const thumb = await putBlob(client, thumbnail, "image/png");
		await client.query(
			`insert into prints (id, shot_id, revision, document, width, height, samples, seed, state, started_at, finished_at, exr, thumbnail)
			 values ('first', $1, $2, $3, $4, $5, 256, 1, 'done', null, now(), $6, $7)`,
			[shotId, shot.head, JSON.stringify(shot.document), width, height, exr, thumb],
		);
		return thumb;
	});
	await makeCheckpoint(pool, shotId, "First light", small);
}

/** Does nothing when there is a shot already. */
export async function keepDemo(pool: pg.Pool): Promise<{ shots: string[] }> {
	const any = await pool.query("select 1 from shots limit 1");
	if (any.rowCount) return { shots: [] };
	const salina = await keepSalina(pool);
	const lantern = await createShot(pool, lanternDocument(), "lantern");
	const blank = await createShot(pool, blankShot("Blank"), "blank");
	return { shots: [salina, lantern.id, blank.id] };
}
