import { z } from "zod";
import { pixelFacts } from "@/core/finish/layers.ts";
import { readPrintPlanes } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";

export const dynamic = "force-dynamic";

const share = z.coerce.number().min(0).max(1);
const Place = z.object({ x: share, y: share });

/** What a print knows of the pixel at a place of the frame, x and y from 0 to 1. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Place.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success) throw new HttpError(400, "bad-place", "x and y are shares of the frame, from 0 to 1.");
	const { file, names } = await readPrintPlanes(id);
	const x = Math.min(file.width - 1, Math.floor(asked.data.x * file.width));
	const y = Math.min(file.height - 1, Math.floor(asked.data.y * file.height));
	const facts = pixelFacts(file.plane, y * file.width + x);
	const shares = facts.shares.map((s) => ({ ...s, name: names[s.id]?.name ?? null }));
	return Response.json({ x, y, name: names[facts.id]?.name ?? null, ...facts, shares });
});
