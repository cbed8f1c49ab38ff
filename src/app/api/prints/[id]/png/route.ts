import { frameAsked, presentPrint } from "@/server/printFiles.ts";
import { route } from "@/server/route.ts";
import { printPng } from "@/store/printFiles.ts";

export const dynamic = "force-dynamic";

/** PNG with the finish and the exposure that the shot has now. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const clean = new URL(request.url).searchParams.get("clean") === "1";
	const frame = frameAsked(request);
	const { file, now } = await presentPrint(id, frame);
	const png = await printPng(file, clean, now.camera, now.finish);
	return new Response(new Uint8Array(png), {
		headers: {
			"Content-Type": "image/png",
			"Content-Disposition": `attachment; filename="print-${id}${frame === null ? "" : `_${String(frame).padStart(4, "0")}`}${clean ? "-clean" : ""}.png"`,
		},
	});
});
