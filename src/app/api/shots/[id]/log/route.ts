import { database } from "@/server/database.ts";
import { route } from "@/server/route.ts";
import { listCheckpoints, readHistory, readStanding } from "@/store/shots.ts";

export const dynamic = "force-dynamic";

/** How a shot stands in its log, without its document. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
	const db = database();
	const [standing, checkpoints, history] = await Promise.all([
		readStanding(db, id),
		listCheckpoints(db, id),
		readHistory(db, id),
	]);
	return Response.json({ standing, checkpoints, history });
});
