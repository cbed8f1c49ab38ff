import { statfs } from "node:fs/promises";
import { partInPixels } from "@/core/scene/part.ts";
import { database } from "@/server/database.ts";
import { heightOf } from "@/server/printFiles.ts";
import { HttpError, readBody, route } from "@/server/route.ts";
import { leastFreeGb, orderPrint, readPrint } from "@/store/prints.ts";
import { readShot } from "@/store/shots.ts";
import { PrintBody } from "@/wire/contracts.ts";

export const POST = route<{ id: string }>(async (request, { id }) => {
	const { widthPx, samples, seed, noisePercent, layers, part } = await readBody(request, PrintBody);
	const disk = await statfs(process.env.INQUADRA_DATA_FOLDER ?? ".");
	const least = leastFreeGb();
	if (disk.bavail * disk.bsize < least * 1e9) throw new HttpError(507, "disk-full", `Less than ${least.toLocaleString("en")} GB of the disk are free. Make room before you print.`);
	const shot = await readShot(database(), id);
	const height = heightOf(shot.document.camera, widthPx);
	const print = await orderPrint(database(), id, shot.revision, shot.document, {
		width: widthPx,
		height,
		samples,
		seed,
		noisePercent: noisePercent ?? null,
		layers: layers ?? false,
		part: partInPixels(part, widthPx, height),
	});
	return Response.json(await readPrint(database(), print), { status: 201 });
});
