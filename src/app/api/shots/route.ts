import { blankShot } from "@/core/doc/defaults.ts";
import { database } from "@/server/database.ts";
import { readBody, route } from "@/server/route.ts";
import { createShot, listShots } from "@/store/shots.ts";
import { NewShotBody } from "@/wire/contracts.ts";

export const dynamic = "force-dynamic";

export const GET = route(async () => Response.json({ shots: await listShots(database()) }));

export const POST = route(async (request) => {
	const { title } = await readBody(request, NewShotBody);
	return Response.json(await createShot(database(), blankShot(title)), { status: 201 });
});
