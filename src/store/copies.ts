/** Scaled copies of pictures for the page: sRGB of 8 bits, made once whatever the file is and kept beside it. */
import type pg from "pg";
import sharp, { type Sharp } from "sharp";
import { type CopyWidth, MOST_PIXELS } from "../core/brief/copies.ts";
import { straightenRows } from "../core/brief/straighten.ts";
import { PictureFileError } from "../core/formats/exr.ts";
import { getBlob, putBlob } from "./blobs.ts";
import { inTransaction } from "./database.ts";
import { mediaTypeOf } from "./mediaType.ts";

/** Kinds of files that are scaled; of others there is no copy. */
const COPIED = ["image/png", "image/jpeg", "image/webp", "image/tiff"];

/** One copy at a time: two of a hundred megapixels would take the server's memory. */
let last: Promise<unknown> = Promise.resolve();

/** Rows that are straightened before others get their turn of the server. */
const ROWS_AT_ONCE = 32;

/** The picture without a bend of `k`. Beyond the edges of one that is bent like a cushion it is seen through. */
async function straight(picture: Sharp, k: number): Promise<Sharp> {
	const { data, info } = await (k > 0 ? picture.ensureAlpha() : picture)
		.raw({ depth: "uchar" })
		.toBuffer({ resolveWithObject: true });
	const out = new Uint8Array(data.length);
	for (let y = 0; y < info.height; y += ROWS_AT_ONCE) {
		straightenRows(
			{ data, width: info.width, height: info.height, channels: info.channels },
			k,
			out,
			y,
			Math.min(info.height, y + ROWS_AT_ONCE),
		);
		await new Promise((r) => setImmediate(r));
	}
	return sharp(out, { raw: { width: info.width, height: info.height, channels: info.channels } });
}

async function makeCopy(
	data: Uint8Array,
	width: number,
	bend: number,
): Promise<{ data: Uint8Array; mediaType: string }> {
	const scaled = sharp(data, { limitInputPixels: MOST_PIXELS })
		.autoOrient()
		.toColourspace("srgb")
		.resize({ width, withoutEnlargement: true, kernel: "lanczos3" });
	const picture = bend === 0 ? scaled : await straight(scaled, bend / 1e4);
	const { hasAlpha } = await sharp(data, { limitInputPixels: false }).metadata();
	return hasAlpha || bend > 0
		? { data: await picture.webp({ quality: 92, alphaQuality: 100 }).toBuffer(), mediaType: "image/webp" }
		: { data: await picture.jpeg({ quality: 92, chromaSubsampling: "4:4:4" }).toBuffer(), mediaType: "image/jpeg" };
}

/** Name of the blob with a copy at most `width` wide and without a bend (in ten-thousandths), null when there is no such file. */
export async function copyOf(pool: pg.Pool, file: string, width: CopyWidth, bend = 0): Promise<string | null> {
	const find = async () =>
		(
			await pool.query<{ copy: string }>("select copy from copies where file = $1 and width = $2 and bend = $3", [
				file,
				width,
				bend,
			])
		).rows[0]?.copy ?? null;
	const make = async () => {
		const held = await find();
		if (held) return held;
		const data = await getBlob(pool, file);
		if (!data || !COPIED.includes(mediaTypeOf(data))) return null;
		const copy = await makeCopy(data, width, bend).catch((error: Error) => {
			throw new PictureFileError(`The picture is damaged and no copy can be made of it: ${error.message}`);
		});
		await inTransaction(pool, async (client) => {
			const blob = await putBlob(client, copy.data, copy.mediaType);
			await client.query(
				"insert into copies (file, width, bend, copy) values ($1, $2, $3, $4) on conflict do nothing",
				[file, width, bend, blob],
			);
		});
		return find();
	};
	const held = await find();
	if (held) return held;
	const turn = last.then(make, make);
	last = turn.catch(() => {});
	return turn;
}
