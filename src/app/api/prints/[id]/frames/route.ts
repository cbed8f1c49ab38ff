import { database } from "@/server/database.ts";
import { HttpError, route } from "@/server/route.ts";
import { listFrames } from "@/store/frames.ts";
import { stateOfPrint } from "@/store/prints.ts";

export const dynamic = "force-dynamic";

/** Frames of a print by their numbers, with their files where they are done. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
	if (!(await stateOfPrint(database(), id))) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	return Response.json({ frames: await listFrames(database(), id) });
});
