import { statfs } from "node:fs/promises";
import type { FramePart, Move, ShotDocument } from "@/core/doc/schema.ts";
import { frameHeight } from "@/core/lens/camera.ts";
import { tracedArea } from "@/core/lens/character.ts";
import { aimedFor, deliveryOrder, MOST_FRAME_PX } from "@/core/lens/delivery.ts";
import { lightLayers } from "@/core/light/layers.ts";
import type { Size } from "@/core/maths/area.ts";
import { partInPixels } from "@/core/scene/part.ts";
import { framesBytes, printBytes, type Tile } from "@/core/scene/picture.ts";
import { parseFrames, tellingOrder } from "@/core/time/frames.ts";
import { database } from "@/server/database.ts";
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

/** Frames that an order wants, in the order in which they are traced; null for a still. */
function framesOfOrder(text: string | null | undefined, move: Move | null | undefined): number[] | null {
	if (!text) return null;
	if (!move) throw new HttpError(409, "no-move", "This shot has no move, so it has no frames. Print the still.");
	try {
		return tellingOrder(parseFrames(text, move.frames));
	} catch (error) {
		throw new HttpError(400, "bad-range", (error as Error).message);
	}
}

interface Ordered {
	document: ShotDocument;
	/** Of the frame. */
	size: Size;
	/** What of it is shown. */
	shown: Tile | null;
}

const framed = (document: ShotDocument, width: number, part: FramePart | null | undefined): Ordered => {
	const size = { width, height: frameHeight(document.camera, width) };
	return { document, size, shown: partInPixels(part, size.width, size.height) };
};

/** What is ordered with a delivery: its area of a frame that is as large as it takes, through its own aim. */
function delivered(document: ShotDocument, id: string): Ordered {
	const delivery = document.deliveries?.find((d) => d.id === id);
	if (!delivery) throw new HttpError(404, "no-delivery", `This shot has no delivery "${id}".`);
	const order = deliveryOrder(delivery, document.camera);
	if (!order)
		throw new HttpError(
			400,
			"too-large",
			`${delivery.name} is so small a part of the frame that it would have to be more than ${MOST_FRAME_PX.toLocaleString("en")} px wide. Let it be larger, or have fewer pixels.`,
		);
	const { part: shown, ...size } = order;
	return { document: aimedFor(document, delivery), size, shown };
}

export const POST = route<{ id: string }>(async (request, { id }) => {
	const { widthPx, samples, seed, noisePercent, spread, layers, part, frames, steadyNoise, timeS, delivery } =
		await readBody(request, PrintBody);
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
	const wanted = framesOfOrder(frames, shot.document.move);
	const { document, size, shown } = delivery
		? delivered(shot.document, delivery)
		: framed(shot.document, widthPx, part);
	const traced = tracedArea(shown, size, document.finish, document.print.overscan);
	const pixels = traced.width * traced.height;
	const lights = layers ? lightLayers(shot.document).names.length : 0;
	const takes = (wanted ? framesBytes(pixels, wanted.length, lights) : printBytes(pixels, lights)) / 1e9;
	if (free - takes < least)
		throw new HttpError(
			507,
			"disk-full",
			`${wanted ? `These ${wanted.length.toLocaleString("en")} frames take` : "This print takes"} some ${Math.ceil(takes).toLocaleString("en")} GB of the disk${wanted ? "" : " until it is done"}, of which ${Math.floor(free)} GB are free; ${least} GB shall stay free.`,
		);
	const print = await orderPrint(database(), id, shot.revision, document, {
		...size,
		samples,
		seed,
		noisePercent: noisePercent ?? null,
		spread,
		layers: layers ?? false,
		part: shown,
		frames: wanted,
		timeS: wanted ? null : timeS,
		steadyNoise,
	});
	return Response.json(await readPrint(database(), print), { status: 201 });
});
