import { Laid } from "@/core/doc/schema.ts";
import { packSheet, SHOT_TEXELS } from "@/core/surface/sheet.ts";
import { sheetName } from "@/core/surface/sheetName.ts";
import { SURFACE_KINDS, slugOf } from "@/core/surface/surfaces.ts";
import { HttpError, route } from "@/server/route.ts";
import { keptSheet, keptSheets } from "@/store/sheets.ts";

const { sheet: baked } = keptSheets();

/** A baked surface as shots have it, by the name of what it is made from. A page of another version has another name, and bakes by itself. */
export const GET = route<{ of: string; seed: string; name: string }>(async (_request, { of, seed, name }) => {
	const kind = SURFACE_KINDS.find((one) => slugOf(one) === of);
	const from = Laid.shape.seed.safeParse(Number(seed));
	if (!kind || !from.success) throw new HttpError(404, "no-surface", "There is no such surface.");
	const work = { of: kind, seed: from.data, texels: SHOT_TEXELS };
	if (sheetName(work) !== name) throw new HttpError(404, "other-version", "This surface is made in another way here.");
	const bytes = (await keptSheet(work)) ?? packSheet(await baked(name, work));
	return new Response(bytes, {
		headers: {
			"Content-Type": "application/octet-stream",
			"Cache-Control": "private, max-age=31536000, immutable",
			"X-Content-Type-Options": "nosniff",
		},
	});
});
