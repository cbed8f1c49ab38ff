import { z } from "zod";
import { pixelFacts } from "@/core/finish/layers.ts";
import { characterOf, GREEN, sourceOf } from "@/core/lens/character.ts";
import { frameAsked, presentPrint } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";

export const dynamic = "force-dynamic";

const share = z.coerce.number().min(0).max(1);
const Place = z.object({ x: share, y: share });

/** What a print knows of the pixel at a place of the frame, x and y from 0 to 1. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Place.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success) throw new HttpError(400, "bad-place", "x and y are shares of the frame, from 0 to 1.");
	const { file, names, now } = await presentPrint(id, frameAsked(request));
	const { window } = file;
	const x = Math.min(window.width - 1, Math.floor(asked.data.x * window.width));
	const y = Math.min(window.height - 1, Math.floor(asked.data.y * window.height));
	const from = sourceOf(x + 0.5, y + 0.5, GREEN, characterOf(now.finish), window);
	const [across, down] = [Math.floor(from[0]) - window.x, Math.floor(from[1]) - window.y];
	if (across < 0 || down < 0 || across >= file.width || down >= file.height)
		throw new HttpError(404, "outside", "This place lies outside the part that was printed.");
	const line = await file.line(down);
	const facts = pixelFacts((name) => line.get(name), across);
	const shares = facts.shares.map((s) => ({ ...s, name: names[s.id]?.name ?? null }));
	return Response.json({ x, y, name: names[facts.id]?.name ?? null, ...facts, shares });
});
