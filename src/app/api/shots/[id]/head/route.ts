import { database } from "@/server/database.ts";
import { readBody, route } from "@/server/route.ts";
import { moveHead } from "@/store/shots.ts";
import { HeadBody } from "@/wire/contracts.ts";

export const POST = route<{ id: string }>(async (request, { id }) => {
	const { move, clientId, sequence } = await readBody(request, HeadBody);
	return Response.json(await moveHead(database(), id, move, clientId, sequence));
});
