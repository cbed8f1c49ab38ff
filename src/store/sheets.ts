/**
 * Baked surfaces, kept as files beside the database, so that all pages, presses and commands of this machine bake each once. A
 * file that is damaged or away is baked anew; where none can be kept, nothing is. Of many, those that were made last stay.
 */
import { randomUUID } from "node:crypto";
import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from "node:fs/promises";
import { join } from "node:path";
import type { Makers, SheetWork } from "../core/scene/inputs.ts";
import { packSheet, type Sheet, unpackSheet } from "../core/surface/sheet.ts";
import { sheetName } from "../core/surface/sheetName.ts";
import { nodeSheets } from "../makers/sheets/node.ts";

const folder = (): string | null => {
	const data = process.env.INQUADRA_DATA_FOLDER;
	return data ? join(data, "sheets") : null;
};

const fileOf = (work: SheetWork, within: string): string => join(within, `${sheetName(work)}.sheet`);

/** Files that are kept at most: 1.5 GiB of sheets as shots have them. */
const MOST_KEPT = 96;

async function forgetOldest(within: string): Promise<void> {
	const names = (await readdir(within)).filter((name) => name.endsWith(".sheet"));
	if (names.length <= MOST_KEPT) return;
	const files = await Promise.all(
		names.map(async (name) => ({ path: join(within, name), at: (await stat(join(within, name))).mtimeMs })),
	);
	files.sort((a, b) => a.at - b.at);
	for (const { path } of files.slice(0, files.length - MOST_KEPT)) await rm(path, { force: true });
}

async function keep(work: SheetWork, sheet: Sheet): Promise<void> {
	const within = folder();
	if (!within) return;
	const half = join(within, `${randomUUID()}.part`);
	try {
		await mkdir(within, { recursive: true });
		await writeFile(half, packSheet(sheet));
		await rename(half, fileOf(work, within));
		await forgetOldest(within);
	} catch {
		// A full disk costs time, nothing else.
		await rm(half, { force: true }).catch(() => {});
	}
}

/** The bytes of a sheet that is kept, as {@link packSheet} has them; null where it is not. */
export async function keptSheet(work: SheetWork): Promise<Uint8Array<ArrayBuffer> | null> {
	const within = folder();
	return within
		? readFile(fileOf(work, within)).then(
				(b) => new Uint8Array(b),
				() => null,
			)
		: null;
}

/** Makes sheets, or takes what is kept; those of pictures are packed each time, since that takes no longer than to read them. */
export function keptSheets(): Pick<Makers, "sheet" | "packed"> {
	const { sheet: bake, packed } = nodeSheets({ between: () => new Promise((resolve) => setImmediate(resolve)) });
	return {
		packed,
		sheet: async (key, work) => {
			const bytes = await keptSheet(work);
			const known = bytes && unpackSheet(bytes);
			if (known && known.size === work.texels) return known;
			const sheet = await bake(key, work);
			await keep(work, sheet);
			return sheet;
		},
	};
}

/** A surface baked by itself. */
export const bakedSheet = async (work: SheetWork): Promise<Sheet> => keptSheets().sheet(sheetName(work), work);
