import { isSurface } from "@/core/surface/laying.ts";
import { packSheet, SHOT_TEXELS } from "@/core/surface/sheet.ts";
import { sheetName } from "@/core/surface/sheetName.ts";
import { HttpError, route } from "@/server/route.ts";
import { keptSheet, keptSheets } from "@/store/sheets.ts";

const sheets = keptSheets();

/** A baked surface as shots have it, by the name of what it is made from. A page of another version has another name, and bakes by itself. */
export const GET = route<{ of: string; seed: string; name: string }>(async (_request, { of, seed, name }) => {
	const work = { of: decodeURIComponent(of), seed: Number(seed), texels: SHOT_TEXELS };
	if (!isSurface(work.of) || !Number.isInteger(work.seed) || work.seed < 0 || work.seed > 99_999)
		throw new HttpError(404, "no-surface", "There is no such surface.");
	const known = { ...work, of: work.of };
	if (sheetName(known) !== name) throw new HttpError(404, "other-version", "This surface is made in another way here.");
	const bytes = (await keptSheet(known)) ?? packSheet(await sheets(name, known));
	return new Response(bytes, {
		headers: {
			"Content-Type": "application/octet-stream",
			"Cache-Control": "private, max-age=31536000, immutable",
			"X-Content-Type-Options": "nosniff",
		},
	});
});
