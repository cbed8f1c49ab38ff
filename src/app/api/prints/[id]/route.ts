import { database } from "@/server/database.ts";
import { forgetPrint } from "@/server/printFiles.ts";
import { HttpError, readBody, route } from "@/server/route.ts";
import { cancelPrint, deletePrint, pausePrint, readPrint } from "@/store/prints.ts";
import { PauseBody } from "@/wire/contracts.ts";

export const dynamic = "force-dynamic";

export const GET = route<{ id: string }>(async (_request, { id }) => {
	const print = await readPrint(database(), id);
	if (!print) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	return Response.json(print);
});

/** Pauses a print, or lets it go on. */
export const PATCH = route<{ id: string }>(async (request, { id }) => {
	const { paused } = await readBody(request, PauseBody);
	if (!(await readPrint(database(), id))) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	if (!(await pausePrint(database(), id, paused)))
		throw new HttpError(409, "not-under-way", paused ? "This print is not under way." : "This print is not paused.");
	return Response.json(await readPrint(database(), id));
});

/** Cancels a print under way; deletes one that has ended. */
export const DELETE = route<{ id: string }>(async (_request, { id }) => {
	if (await cancelPrint(database(), id)) return Response.json({ cancelled: id });
	forgetPrint(id);
	if (!(await deletePrint(database(), id))) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	return Response.json({ deleted: id });
});
