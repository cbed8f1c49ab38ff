import { database } from "@/server/database.ts";
import { readBody, route } from "@/server/route.ts";
import { commitEdit } from "@/store/shots.ts";
import { EditBody } from "@/wire/contracts.ts";

export const POST = route<{ id: string }>(async (request, { id }) => {
	const { edit, clientId, sequence } = await readBody(request, EditBody);
	const { document: _, ...state } = await commitEdit(database(), id, edit, clientId, sequence);
	return Response.json(state);
});
