import { database } from "@/server/database.ts";
import { HttpError, route } from "@/server/route.ts";
import { cancelPrint, deletePrint, readPrint } from "@/store/prints.ts";

export const dynamic = "force-dynamic";

export const GET = route<{ id: string }>(async (_request, { id }) => {
	const print = await readPrint(database(), id);
	if (!print) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	return Response.json(print);
});

/** Cancels a print under way; deletes one that has ended. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
	if (await cancelPrint(database(), id)) return Response.json({ cancelled: id });
	if (!(await deletePrint(database(), id))) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	return Response.json({ deleted: id });
});
