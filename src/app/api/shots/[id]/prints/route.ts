import { statfs } from "node:fs/promises";
import { lightLayers } from "@/core/light/layers.ts";
import { partInPixels } from "@/core/scene/part.ts";
import { printBytes } from "@/core/scene/picture.ts";
import { database } from "@/server/database.ts";
import { heightOf } from "@/server/printFiles.ts";
import { HttpError, readBody, route } from "@/server/route.ts";
import { pressBusy } from "@/store/pilots.ts";
import { leastFreeGb, listPrints, orderPrint, readPrint } from "@/store/prints.ts";
import { readShot, readStanding } from "@/store/shots.ts";
import { PrintBody } from "@/wire/contracts.ts";

export const dynamic = "force-dynamic";

/** Prints of a shot, the newest first, and whether any print is under way here. */
export const GET = route<{ id: string }>(async (_request, { id }) => {
	await readStanding(database(), id);
	const [prints, busy] = await Promise.all([listPrints(database(), id), pressBusy(database())]);
	return Response.json({ prints, busy });
});

export const POST = route<{ id: string }>(async (request, { id }) => {
	const { widthPx, samples, seed, noisePercent, layers, part } = await readBody(request, PrintBody);
	const disk = await statfs(process.env.INQUADRA_DATA_FOLDER ?? ".");
	const free = (disk.bavail * disk.bsize) / 1e9;
	const least = leastFreeGb();
	if (free < least)
		throw new HttpError(
			507,
			"disk-full",
			`Less than ${least.toLocaleString("en")} GB of the disk are free. Make room before you print.`,
		);
	const shot = await readShot(database(), id);
	const height = heightOf(shot.document.camera, widthPx);
	const pixels = partInPixels(part, widthPx, height);
	const takes =
		printBytes(
			pixels ? pixels.width * pixels.height : widthPx * height,
			layers ? lightLayers(shot.document).names.length : 0,
		) / 1e9;
	if (free - takes < least)
		throw new HttpError(
			507,
			"disk-full",
			`This print takes some ${Math.ceil(takes)} GB of the disk until it is done, of which ${Math.floor(free)} GB are free; ${least} GB shall stay free.`,
		);
	const print = await orderPrint(database(), id, shot.revision, shot.document, {
		width: widthPx,
		height,
		samples,
		seed,
		noisePercent: noisePercent ?? null,
		layers: layers ?? false,
		part: pixels,
	});
	return Response.json(await readPrint(database(), print), { status: 201 });
});
