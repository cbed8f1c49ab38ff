/** Files of a finished print, made from its EXR. */

import type { PrintLine } from "../core/doc/records.ts";
import { getBlob } from "../store/blobs.ts";
import { readPrintFile } from "../store/printFiles.ts";
import { readPrint } from "../store/prints.ts";
import { database } from "./database.ts";
import { HttpError } from "./route.ts";

export async function finishedPrint(id: string): Promise<{ print: PrintLine & { exr: string }; file: Buffer }> {
	const print = await readPrint(database(), id);
	if (!print) throw new HttpError(404, "no-print", `There is no print "${id}".`);
	if (!print.exr) throw new HttpError(409, "not-done", "This print is not done yet.");
	const file = await getBlob(database(), print.exr);
	if (!file) throw new HttpError(404, "no-blob", "The file of this print is gone.");
	return { print: { ...print, exr: print.exr }, file };
}

/** Linear RGB of a print as it was traced, or without its noise where its file has that layer. */
export async function printPixels(id: string, clean: boolean) {
	const { print, file } = await finishedPrint(id);
	const p = readPrintFile(file);
	return { print, width: p.width, height: p.height, rgb: clean && p.clean ? p.clean : p.rgb };
}
