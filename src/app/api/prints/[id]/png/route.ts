import { database } from "@/server/database.ts";
import { readPrintPlanes } from "@/server/printFiles.ts";
import { route } from "@/server/route.ts";
import { printPng } from "@/store/printFiles.ts";
import { readShot } from "@/store/shots.ts";

export const dynamic = "force-dynamic";

/** PNG with the finish and the exposure that the shot has now. */
export const GET = route<{ id: string }>(async (request, { id }) => {
	const clean = new URL(request.url).searchParams.get("clean") === "1";
	const { print, file } = await readPrintPlanes(id);
	const shot = await readShot(database(), print.shotId);
	const png = await printPng(file, clean, shot.document.camera.ev100, shot.document.finish);
	return new Response(new Uint8Array(png), {
		headers: {
			"Content-Type": "image/png",
			"Content-Disposition": `attachment; filename="print-${id}${clean ? "-clean" : ""}.png"`,
		},
	});
});
