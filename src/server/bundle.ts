/** All that a page opens a shot with. */
import { pressBusy } from "../store/pilots.ts";
import { listPrints } from "../store/prints.ts";
import { readLog, readShot } from "../store/shots.ts";
import { database } from "./database.ts";

export async function shotBundle(id: string) {
	const db = database();
	const [state, { checkpoints, history, left }, prints, busy] = await Promise.all([
		readShot(db, id),
		readLog(db, id),
		listPrints(db, id),
		pressBusy(db),
	]);
	return { state, checkpoints, prints, busy, history, left };
}
