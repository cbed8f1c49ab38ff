import { z } from "zod";
import { pixelFacts } from "@/core/finish/layers.ts";
import { frameAsked, readPrintPlanes } from "@/server/printFiles.ts";
import { HttpError, route } from "@/server/route.ts";

export const dynamic = "force-dynamic";

const share = z.coerce.number().min(-4).max(5);
const Place = z.object({ x: share, y: share });

/** The pixel at a place in pixels; the far edge belongs to the last one. */
const pixelOf = (at: number, count: number): number => (at === count ? count - 1 : Math.floor(at));

/** What a print knows of the pixel at a place of the straight frame, x and y from 0 to 1 and beyond where more was traced. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Place.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success) throw new HttpError(400, "bad-place", "x and y are shares of the frame, which goes from 0 to 1.");
	const { file, names } = await readPrintPlanes(id, frameAsked(request));
	const { window } = file;
	const across = pixelOf(asked.data.x * window.width - window.x, file.width);
	const down = pixelOf(asked.data.y * window.height - window.y, file.height);
	if (across < 0 || down < 0 || across >= file.width || down >= file.height)
		throw new HttpError(404, "outside", "This place lies outside the part that was printed.");
	const line = await file.line(down);
	const facts = pixelFacts((name) => line.get(name), across);
	const shares = facts.shares.map((s) => ({ ...s, name: names[s.id]?.name ?? null }));
	const [x, y] = [across + window.x, down + window.y];
	return Response.json({ x, y, name: names[facts.id]?.name ?? null, ...facts, shares });
});
