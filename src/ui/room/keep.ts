import { frameThumbnail } from "../frame/thumbnail.ts";
import { call } from "../store/saving.ts";
import { useShot } from "../store/shotStore.ts";

/** Keeps the shot as it stands, with the frame as its thumbnail. */
export async function keep(): Promise<void> {
	const { shotId, refresh, say, checkpoints } = useShot.getState();
	try {
		const thumbnail = await frameThumbnail();
		await call(`/api/shots/${shotId}/checkpoints`, { name: `Checkpoint ${checkpoints.length + 1}`, thumbnail });
		await refresh();
		say(`Kept as checkpoint ${checkpoints.length + 1}. It lies on the contact sheet.`);
	} catch (error) {
		say(`The checkpoint could not be kept: ${(error as Error).message}`);
	}
}
