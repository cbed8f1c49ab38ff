import { z } from "zod";
import { framesArchive } from "@/server/archive.ts";
import { HttpError, route } from "@/server/route.ts";

export const dynamic = "force-dynamic";

const Flag = z.enum(["0", "1"]);
const Asked = z.object({ kind: z.enum(["exr", "png"]), clean: Flag.default("1"), steady: Flag.default("0") });

/** All frames that are done in one ZIP: EXR as they are kept, with their steady pictures in files of their own, or PNG with the finish that the shot has now. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const asked = Asked.safeParse(Object.fromEntries(new URL(request.url).searchParams));
	if (!asked.success) throw new HttpError(400, "bad-choice", "kind is exr or png, clean and steady 0 or 1.");
	const { kind, clean, steady } = asked.data;
	return new Response(await framesArchive(id, kind, { clean: clean === "1", steady: steady === "1" }), {
		headers: {
			"Content-Type": "application/zip",
			"Content-Disposition": `attachment; filename="move-${id}-${kind}.zip"`,
			"Cache-Control": "no-cache, no-transform",
		},
	});
});
