import { z } from "zod";
import { frameAsked, presentPrint } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";
import { depthPng } from "../../../../../store/printFiles.ts";

export const dynamic = "force-dynamic";

const metres = z.coerce.number().min(0).max(1e6);
const Asked = z.object({ near: metres, far: metres }).refine((a) => a.far > a.near, "far must lie beyond near.");

/** Depth as a grey PNG of 16 bits, white at `near` metres and black at `far`. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Asked.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success)
		throw new HttpError(400, "bad-distance", `near and far are metres from the lens: ${asked.error.issues[0].message}`);
	const { file, now } = await presentPrint(id, frameAsked(request));
	const png = await depthPng(file, asked.data.near, asked.data.far, now.finish);
	if (!png) throw new HttpError(409, "no-layer", "The file of this print has no depth.");
	return new Response(new Uint8Array(png), {
		headers: { "Content-Type": "image/png", "Content-Disposition": `attachment; filename="print-${id}-depth.png"` },
	});
});
