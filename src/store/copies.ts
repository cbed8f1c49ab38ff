/** Scaled copies of pictures for the page: sRGB of 8 bits, made once whatever the file is and kept beside it. */
import type pg from "pg";
import sharp from "sharp";
import { type CopyWidth, MOST_PIXELS } from "../core/brief/copies.ts";
import { getBlob, putBlob } from "./blobs.ts";
import { inTransaction } from "./database.ts";

/** One copy at a time: two of a hundred megapixels would take the server's memory. */
let last: Promise<unknown> = Promise.resolve();

async function makeCopy(data: Uint8Array, width: number): Promise<{ data: Uint8Array; mediaType: string }> {
	const picture = sharp(data, { limitInputPixels: MOST_PIXELS }).autoOrient().toColourspace("srgb").resize({ width, withoutEnlargement: true, kernel: "lanczos3" });
	const { hasAlpha } = await sharp(data, { limitInputPixels: false }).metadata();
	return hasAlpha
		? { data: await picture.webp({ quality: 92, alphaQuality: 100 }).toBuffer(), mediaType: "image/webp" }
		: { data: await picture.jpeg({ quality: 92, chromaSubsampling: "4:4:4" }).toBuffer(), mediaType: "image/jpeg" };
}

/** Name of the blob with a copy at most `width` wide, null when there is no such file. */
export async function copyOf(pool: pg.Pool, file: string, width: CopyWidth): Promise<string | null> {
	const find = async () => (await pool.query<{ copy: string }>("select copy from copies where file = $1 and width = $2", [file, width])).rows[0]?.copy ?? null;
	const make = async () => {
		const held = await find();
		if (held) return held;
		const data = await getBlob(pool, file);
		if (!data) return null;
		const copy = await makeCopy(data, width);
		await inTransaction(pool, async (client) => {
			const blob = await putBlob(client, copy.data, copy.mediaType);
			await client.query("insert into copies (file, width, copy) values ($1, $2, $3) on conflict do nothing", [file, width, blob]);
		});
		return find();
	};
	const held = await find();
	if (held) return held;
	const turn = last.then(make, make);
	last = turn.catch(() => {});
	return turn;
}
