import { frameAsked, printLayers } from "@/server/printFiles.ts";
import { route } from "@/server/route.ts";

/** Names of the layers that a print can be shown as. */
export const GET = route<{ id: string }>(async (request, { id }) =>
	Response.json({ layers: await printLayers(id, frameAsked(request)) }),
);
