import { prepareAside } from "@/server/aside.ts";
import { database } from "@/server/database.ts";
import { readBytes, route } from "@/server/route.ts";
import { checkSkyHead, keepSky } from "@/store/skies.ts";
import { type KeptSky, MOST_BYTES } from "@/wire/contracts.ts";

/** Takes the bytes of a sky picture, keeps them, and prepares the table that scenes are lit by. */
export const POST = route(async (request) => {
	const kept: KeptSky = await keepSky(database(), await readBytes(request, MOST_BYTES, checkSkyHead), prepareAside);
	return Response.json(kept, { status: 201 });
});
