/** Files of a finished print, made from its EXR. */

import { z } from "zod";
import type { PrintLine } from "../core/doc/records.ts";
import { type Camera, MOST_FRAMES, type ShotDocument } from "../core/doc/schema.ts";
import { channelsOf, type Layer, LayerScale, layerPicture, layersIn, scaledBy } from "../core/finish/layers.ts";
import { namesOfIds } from "../core/scene/ids.ts";
import { documentOf } from "../core/time/documentAt.ts";
import { type Moment, STILL } from "../core/time/frames.ts";
import { blobInfo, blobRange, getBlob } from "../store/blobs.ts";
import { listFrames } from "../store/frames.ts";
import { openPrintBytes, openPrintFile, type PrintFile, pictureNames, withSteady } from "../store/printFiles.ts";
import { momentOf, readPrint, readWork } from "../store/prints.ts";
import type { Rgb } from "../store/printWriter.ts";
import { readShot } from "../store/shots.ts";
import { database } from "./database.ts";
import { HttpError } from "./route.ts";

/** A print with its file; of the frames of a move that of the given one. */
export async function finishedPrint(
	id: string,
	frame: number | null,
): Promise<PrintLine & { exr: string; steady: string | null }> {
	const print = await readPrint(database(), id);
	if (!print) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	if (!print.sequence) {
		if (!print.exr) throw new HttpError(409, "not-done", "This print is not done yet.");
		return { ...print, exr: print.exr, steady: null };
	}
	const [of] = await listFrames(database(), id, frame ?? print.sequence.first);
	if (!of) throw new HttpError(404, "no-frame", `This print has no frame ${frame}.`);
	if (!of.exr) throw new HttpError(409, "not-done", `Frame ${of.frame} of this print is not done yet.`);
	return { ...print, exr: of.exr, pixelsSha256: of.pixelsSha256, steady: of.steady };
}

const Frame = z.coerce.number().int().min(0).max(MOST_FRAMES);

/** The frame that a request asks for, null when it names none. */
export function frameAsked(request: Request): number | null {
	const asked = new URL(request.url).searchParams.get("frame");
	if (asked === null) return null;
	const frame = Frame.safeParse(asked);
	if (!frame.success) throw new HttpError(400, "bad-frame", "A frame is a whole number from 0.");
	return frame.data;
}

/** A print's file, read, and what the numbers of its id layer stand for. */
interface ReadPrint {
	print: PrintLine;
	file: PrintFile;
	names: { id: string; name: string }[];
	/** The camera that it was printed with. */
	camera: Camera | null;
	/** The moment that it shows. */
	moment: Moment;
}

/** The prints that were read last, since a pointer that moves over one asks for many pixels of its file. */
const MOST_READ = 2;
/** Bytes up to which a file is held whole; of larger ones only the lines that are asked for are read. */
const HELD_BYTES = 96 * 1024 * 1024;
const read = new Map<string, Promise<ReadPrint>>();

async function openBlob(hash: string): Promise<PrintFile> {
	const info = await blobInfo(database(), hash);
	if (!info) throw new HttpError(404, "no-blob", "The file of this print is gone.");
	const held = info.size <= HELD_BYTES ? await getBlob(database(), hash) : null;
	return held ? openPrintBytes(held) : openPrintFile((from, to) => blobRange(database(), hash, from, to), info.size);
}

async function readWhole(id: string, frame: number | null, steady: boolean): Promise<ReadPrint> {
	const print = await finishedPrint(id, frame);
	const own = await openBlob(print.exr);
	const file = steady && print.steady ? withSteady(own, await openBlob(print.steady)) : own;
	const work = await readWork(database(), id);
	const moment = work ? momentOf(work, frame ?? print.sequence?.first ?? 0) : STILL;
	const shown = work && documentOf(work.document, moment);
	return { print, file, names: shown ? namesOfIds(shown) : [], camera: shown?.camera ?? null, moment };
}

/** `steady`: with its neighbours taken in, where that has been made. */
export async function readPrintPlanes(id: string, frame: number | null = null, steady = false): Promise<ReadPrint> {
	// It may have been made since the frame was read last.
	const made = steady ? (await finishedPrint(id, frame)).steady : null;
	const key = `${id}/${frame ?? ""}/${made ?? ""}`;
	let known = read.get(key);
	if (!known) {
		known = readWhole(id, frame, steady);
		read.set(key, known);
		known.catch(() => read.delete(key));
		for (const key of [...read.keys()].slice(0, -MOST_READ)) read.delete(key);
	}
	return known;
}

/** A print's file with the exposure and the finish that its shot has now, at the moment that it shows. */
export async function presentPrint(id: string, frame: number | null): Promise<ReadPrint & { now: ShotDocument }> {
	const read = await readPrintPlanes(id, frame);
	const shot = await readShot(database(), read.print.shotId);
	return { ...read, now: documentOf(shot.document, read.moment) };
}

/** Forgets a print that is deleted. */
export const forgetPrint = (id: string): void => {
	for (const key of [...read.keys()]) if (key.startsWith(`${id}/`)) read.delete(key);
};

/** Names of the layers that a print can be shown as. */
export async function printLayers(id: string, frame: number | null): Promise<string[]> {
	const { file } = await readPrintPlanes(id, frame);
	return layersIn(file.names);
}

/** Some lines of a picture, linear. */
export interface ShownLines {
	y: number;
	rows: number;
	rgb: Rgb;
}

/** Lines of a print from the top: as it was traced, without its noise where its file has that, or the light of one source or of the fog. */
export async function* printLines(
	file: PrintFile,
	what: { clean: boolean; light?: string },
): AsyncGenerator<ShownLines> {
	const names = pictureNames(file, what.clean, what.light);
	if (!names.every((n) => file.names.includes(n)))
		throw new HttpError(
			409,
			"no-layer",
			`The file of this print has no layer for ${what.light?.slice(0, 80) ?? "the picture"}. Print it again with its lights by themselves.`,
		);
	for await (const { y, rows, planes } of file.lines(names))
		yield { y, rows, rgb: names.map((n) => planes.get(n)) as Rgb };
}

/** What a layer of a print is shown by, of all its lines. */
export async function scaleOf(file: PrintFile, layer: Layer): Promise<LayerScale> {
	const scale = new LayerScale();
	const by = scaledBy(layer);
	if (by) for await (const { planes } of file.lines([by])) scale.take((name) => planes.get(name));
	return scale;
}

/** Lines of a layer of a print as linear RGB in 0 to 1. */
export async function* layerLines(
	file: PrintFile,
	layer: Exclude<Layer, "picture">,
	scale: LayerScale,
): AsyncGenerator<ShownLines> {
	for await (const { y, rows, planes } of file.lines(channelsOf(layer))) {
		const rgb = layerPicture(layer, (name) => planes.get(name), file.width * rows, scale);
		if (!rgb)
			throw new HttpError(
				409,
				"no-layer",
				`The file of this print has no layer for ${layer}. Print it again to have it.`,
			);
		yield { y, rows, rgb };
	}
}
