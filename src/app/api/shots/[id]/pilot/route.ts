import { frameHeight } from "@/core/lens/camera.ts";
import { partInPixels } from "@/core/scene/part.ts";
import { database } from "@/server/database.ts";
import { readBody, route } from "@/server/route.ts";
import { askPilot, pressBusy } from "@/store/pilots.ts";
import { readShot } from "@/store/shots.ts";
import { PrintBody } from "@/wire/contracts.ts";

/** Measures what an order would take: `pilot` is null while prints are under way or no worker answers. */
export const POST = route<{ id: string }>(async (request, { id }) => {
	const { widthPx: width, part } = await readBody(request, PrintBody);
	const { document } = await readShot(database(), id);
	const height = frameHeight(document.camera, width);
	const pilot = (await pressBusy(database()))
		? null
		: await askPilot(database(), { document, width, height, part: partInPixels(part, width, height) });
	return Response.json({ pilot });
});
