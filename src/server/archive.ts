/** Frames of a print in one ZIP that is written as it is read: nothing of it waits in memory or on the disk. */
import { Readable } from "node:stream";
import yazl from "yazl";
import { documentAt } from "../core/time/documentAt.ts";
import { momentOfFrame } from "../core/time/frames.ts";
import { blobChunks, blobInfo, getBlob } from "../store/blobs.ts";
import { listFrames } from "../store/frames.ts";
import { openPrintBytes, printPng } from "../store/printFiles.ts";
import { readWork } from "../store/prints.ts";
import { readShot } from "../store/shots.ts";
import { database } from "./database.ts";
import { HttpError } from "./route.ts";

export type ArchiveKind = "exr" | "png";

/** A stream of the frames that are done: linear as they are kept, or with the finish that the shot has now. */
export async function framesArchive(id: string, kind: ArchiveKind, clean: boolean): Promise<ReadableStream> {
	const work = await readWork(database(), id);
	const move = work?.document.move;
	if (!work?.sequence || !move) throw new HttpError(404, "no-frames", `The print "${id}" has no frames of a move.`);
	const frames = (await listFrames(database(), id)).filter((f) => f.exr);
	if (frames.length === 0) throw new HttpError(409, "no-frames", "No frame of this print is done yet.");
	const shotId = (await database().query("select shot_id from prints where id = $1", [id])).rows[0].shot_id;
	const { document } = await readShot(database(), shotId);
	const zip = new yazl.ZipFile();
	for (const { frame, exr } of frames) {
		const name = `move-${id}_${String(frame).padStart(4, "0")}.${kind}`;
		const hash = exr as string;
		if (kind === "exr") {
			const info = await blobInfo(database(), hash);
			if (!info) throw new HttpError(404, "no-blob", `The file of frame ${frame} is gone.`);
			zip.addReadStreamLazy(name, { compress: false, size: info.size }, (take) =>
				take(null, Readable.from(blobChunks(database(), hash))),
			);
			continue;
		}
		zip.addReadStreamLazy(name, { compress: false }, (take) => {
			void (async () => {
				const file = await getBlob(database(), hash);
				if (!file) throw new Error(`the file of frame ${frame} is gone`);
				const { timeS } = momentOfFrame(frame, move);
				const { finish } = documentAt(document, timeS);
				const ev = documentAt(work.document, timeS).camera.ev100;
				return printPng(await openPrintBytes(file), clean, ev, finish);
			})().then(
				(png) => take(null, Readable.from([png])),
				(error) => take(error, null as never),
			);
		});
	}
	zip.end();
	return Readable.toWeb(zip.outputStream as unknown as Readable) as ReadableStream;
}
