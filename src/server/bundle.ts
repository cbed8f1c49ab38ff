/** All that a page opens a shot with. */
import { listPrints } from "../store/prints.ts";
import { readLog, readShot } from "../store/shots.ts";
import { database } from "./database.ts";

export async function shotBundle(id: string) {
	const db = database();
	const [state, { checkpoints, history, left }, prints] = await Promise.all([
		readShot(db, id),
		readLog(db, id),
		listPrints(db, id),
	]);
	return { state, checkpoints, prints, history, left };
}
