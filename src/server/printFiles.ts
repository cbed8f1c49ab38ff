/** Files of a finished print, made from its EXR. */

import type { PrintLine } from "../core/doc/records.ts";
import type { Camera } from "../core/doc/schema.ts";
import { type Layer, layerPicture, layersIn } from "../core/finish/layers.ts";
import { usedFilm } from "../core/lens/camera.ts";
import { namesOfIds } from "../core/scene/compile.ts";
import { getBlob } from "../store/blobs.ts";
import { type PrintFile, readPrintFile } from "../store/printFiles.ts";
import { readPrint, readWork } from "../store/prints.ts";
import { database } from "./database.ts";
import { HttpError } from "./route.ts";

/** Height of a print of the frame that is so many pixels wide. */
export function heightOf(camera: Camera, widthPx: number): number {
	const film = usedFilm(camera.film, camera.ratio);
	return Math.max(1, Math.round((widthPx * film.heightMm) / film.widthMm));
}

export async function finishedPrint(id: string): Promise<PrintLine & { exr: string }> {
	const print = await readPrint(database(), id);
	if (!print) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	if (!print.exr) throw new HttpError(409, "not-done", "This print is not done yet.");
	return { ...print, exr: print.exr };
}

/** A print's file, read, and what the numbers of its id layer stand for. */
interface ReadPrint {
	print: PrintLine;
	file: PrintFile;
	names: { id: string; name: string }[];
	/** The camera that it was printed with. */
	camera: Camera | null;
}

/** The prints that were read last, since a pointer that moves over one asks for many pixels of its file. */
const MOST_READ = 2;
const read = new Map<string, Promise<ReadPrint>>();

async function readWhole(id: string): Promise<ReadPrint> {
	const print = await finishedPrint(id);
	const file = await getBlob(database(), print.exr);
	if (!file) throw new HttpError(404, "no-blob", "The file of this print is gone.");
	const work = await readWork(database(), id);
	return { print, file: readPrintFile(file), names: work ? namesOfIds(work.document) : [], camera: work?.document.camera ?? null };
}

export function readPrintPlanes(id: string): Promise<ReadPrint> {
	let known = read.get(id);
	if (!known) {
		known = readWhole(id);
		read.set(id, known);
		known.catch(() => read.delete(id));
		for (const key of [...read.keys()].slice(0, -MOST_READ)) read.delete(key);
	}
	return known;
}

/** Forgets a print that is deleted. */
export const forgetPrint = (id: string): void => void read.delete(id);

/** Linear RGB of a print as it was traced, or without its noise where its file has that layer. */
export async function printPixels(id: string, clean: boolean) {
	const { print, file } = await readPrintPlanes(id);
	return { print, width: file.width, height: file.height, window: file.window, rgb: (clean && file.clean()) || file.rgb() };
}

/** Names of the layers that a print can be shown as. */
export async function printLayers(id: string): Promise<string[]> {
	const { file } = await readPrintPlanes(id);
	return layersIn(file.exr.names);
}

/** Light of one source, or what fog sends, as it was traced. */
export async function printLight(id: string, layer: string) {
	const { print, file } = await readPrintPlanes(id);
	const rgb = ["R", "G", "B"].map((c) => file.plane(`${layer}.${c}`)) as (Float32Array | undefined)[];
	if (!rgb.every((p) => p)) throw new HttpError(409, "no-layer", `The file of this print has no layer for ${layer.slice(0, 80)}. Print it again with its lights by themselves.`);
	return { print, width: file.width, height: file.height, window: file.window, rgb: rgb as [Float32Array, Float32Array, Float32Array] };
}

/** A layer of a print as linear RGB in 0 to 1. */
export async function printLayer(id: string, layer: Exclude<Layer, "picture">) {
	const { file } = await readPrintPlanes(id);
	const rgb = layerPicture(layer, file.plane, file.width * file.height);
	if (!rgb) throw new HttpError(409, "no-layer", `The file of this print has no layer for ${layer}. Print it again to have it.`);
	return { width: file.width, height: file.height, window: file.window, rgb };
}
