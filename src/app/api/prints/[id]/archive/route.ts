import { z } from "zod";
import { framesArchive } from "@/server/archive.ts";
import { HttpError, route } from "@/server/route.ts";

export const dynamic = "force-dynamic";

const Asked = z.object({ kind: z.enum(["exr", "png"]), clean: z.enum(["0", "1"]).default("1") });

/** All frames that are done in one ZIP: EXR as they are kept, or PNG with the finish that the shot has now. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Asked.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success) throw new HttpError(400, "bad-choice", "kind is exr or png, clean 0 or 1.");
	const { kind, clean } = asked.data;
	return new Response(await framesArchive(id, kind, clean === "1"), {
		headers: {
			"Content-Type": "application/zip",
			"Content-Disposition": `attachment; filename="move-${id}-${kind}.zip"`,
			"Cache-Control": "no-cache, no-transform",
		},
	});
});
