/** Frames of a print in one ZIP that is written as it is read: nothing of it waits in memory or on the disk. */
import { Readable } from "node:stream";
import yazl from "yazl";
import { documentOf } from "../core/time/documentAt.ts";
import { blobChunks, blobInfo } from "../store/blobs.ts";
import { doneFrames } from "../store/frames.ts";
import { printPng } from "../store/printFiles.ts";
import { momentOf, readWork } from "../store/prints.ts";
import { readShot } from "../store/shots.ts";
import { openFrameFile } from "../store/steady.ts";
import { database } from "./database.ts";
import { HttpError } from "./route.ts";

export type ArchiveKind = "exr" | "png";

/** A stream of the frames that are done: linear as they are kept, or with the finish that the shot has now. */
export async function framesArchive(
	id: string,
	kind: ArchiveKind,
	light: { clean: boolean; steady: boolean },
): Promise<ReadableStream> {
	const work = await readWork(database(), id);
	if (!work?.sequence) throw new HttpError(404, "no-frames", `The print "${id}" has no frames of a move.`);
	const frames = await doneFrames(database(), id);
	if (frames.length === 0) throw new HttpError(409, "no-frames", "No frame of this print is done yet.");
	const shotId = (await database().query("select shot_id from prints where id = $1", [id])).rows[0].shot_id;
	const { document } = await readShot(database(), shotId);
	const zip = new yazl.ZipFile();
	const blob = async (name: string, hash: string, frame: number) => {
		const info = await blobInfo(database(), hash);
		if (!info) throw new HttpError(404, "no-blob", `The file of frame ${frame} is gone.`);
		zip.addReadStreamLazy(name, { compress: false, size: info.size }, (take) =>
			take(null, Readable.from(blobChunks(database(), hash))),
		);
	};
	const finished = async ({ frame, exr, steady }: (typeof frames)[number]) => {
		const { camera, finish } = documentOf(document, momentOf(work, frame));
		return printPng(await openFrameFile(database(), exr, light.steady ? steady : null), light.clean, camera, finish);
	};
	for (const one of frames) {
		const name = `move-${id}_${String(one.frame).padStart(4, "0")}`;
		if (kind === "exr") {
			await blob(`${name}.exr`, one.exr, one.frame);
			if (light.steady && one.steady) await blob(`${name}.steady.exr`, one.steady, one.frame);
			continue;
		}
		zip.addReadStreamLazy(`${name}.png`, { compress: false }, (take) => {
			void finished(one).then(
				(png) => take(null, Readable.from([png])),
				(error) => take(error, null as never),
			);
		});
	}
	zip.end();
	return Readable.toWeb(zip.outputStream as unknown as Readable) as ReadableStream;
}
