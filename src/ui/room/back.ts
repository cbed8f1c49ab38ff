/** Undo: where it leads away from the end of the log, the frame as it stands there is kept for the contact sheet. */
import { frameThumbnail } from "../frame/thumbnail.ts";
import { call } from "../store/saving.ts";
import { useShot } from "../store/shotStore.ts";

/** The last end of a log that was pictured. */
let pictured = "";

async function picture(shotId: string, revision: number): Promise<void> {
	const end = `${shotId} ${revision}`;
	if (pictured === end) return;
	pictured = end;
	const thumbnail = await frameThumbnail();
	if (thumbnail) await call(`/api/shots/${shotId}/left`, { revision, thumbnail });
}

/** The last undo took a return back: what comes to stand now is the end of what was worked on. */
let returned = false;

export function undo(): void {
	const { shotId, revision, standsFor, canUndo, canRedo, pending, moveHead } = useShot.getState();
	const isReturn = standsFor !== revision;
	// Without its picture a branch can be returned to all the same.
	if (canUndo && (!canRedo || returned) && !isReturn && pending.length === 0)
		void picture(shotId, revision).catch(() => {});
	returned = isReturn;
	moveHead("undo");
}
