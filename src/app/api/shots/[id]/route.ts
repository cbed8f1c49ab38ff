import { database } from "@/server/database.ts";
import { route } from "@/server/route.ts";
import { listPrints } from "@/store/prints.ts";
import { listCheckpoints, readHistory, readShot } from "@/store/shots.ts";

export const dynamic = "force-dynamic";

export const GET = route<{ id: string }>(async (_request, { id }) => {
	const db = database();
	const [state, checkpoints, prints, history] = await Promise.all([
		readShot(db, id),
		listCheckpoints(db, id),
		listPrints(db, id),
		readHistory(db, id),
	]);
	return Response.json({ state, checkpoints, prints, history });
});
