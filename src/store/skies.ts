/**
 * Sky pictures: kept as they came; the table that scenes are lit by is made of them once and kept beside them. HDR and EXR
 * are read by our own readers, pictures of 8 and 16 bits by sharp, and then taken from sRGB to linear light.
 */

import type pg from "pg";
import sharp from "sharp";
import {
	completedStrip,
	isStrip,
	MOST_STRIP,
	makeSkyTable,
	readSkyTable,
	type SkyTable,
	skyTableBytes,
} from "../core/air/skyPicture.ts";
import { decodeSrgb } from "../core/colour/linear.ts";
import { exrPixels, openExr, PictureFileError } from "../core/formats/exr.ts";
import { isHdr, readHdr } from "../core/formats/hdr.ts";
import { blobInfo, getBlob, putBlob } from "./blobs.ts";
import { inTransaction } from "./database.ts";
import { keepMade, type MadeName, madeOnce } from "./made.ts";
import { mediaTypeOf } from "./mediaType.ts";

/** Raised when tables are made in another way. */
const CODE = 1;
const MOST_PIXELS = 140_000_000;

/** A picture that cannot stand for a sky. */
export class SkyPictureError extends PictureFileError {
	override readonly code = "bad-sky";
}

const NOT_READ =
	"This file is no picture that can be read, or it is damaged. HDR, EXR, PNG, JPEG, WebP and TIFF can be hung as a sky.";

interface LinearPicture {
	width: number;
	height: number;
	/** RGB, rows from the top. */
	rgb: Float32Array;
	mediaType: string;
}

function fromExr(data: Uint8Array): LinearPicture {
	const file = openExr(data, MOST_PIXELS);
	const { width, height, names } = file;
	const wanted = ["R", "G", "B"].map((c) => (names.includes(c) ? c : "Y"));
	if (!wanted.every((c) => names.includes(c)))
		throw new SkyPictureError(`The EXR file has no channels R, G and B, but ${names.join(", ").slice(0, 200)}.`);
	const rgb = new Float32Array(width * height * 3);
	// One channel after the other: all of a large file at once would take twice its memory.
	wanted.forEach((name, c) => {
		const [plane] = file.planes([name]);
		for (let i = 0; i < width * height; i++) rgb[i * 3 + c] = plane.data[i];
	});
	return { width, height, rgb, mediaType: "image/x-exr" };
}

async function fromSharp(data: Uint8Array): Promise<LinearPicture> {
	let raw: { data: Buffer; info: { width: number; height: number } };
	let deep = false;
	let format = "";
	try {
		const meta = await sharp(data, { limitInputPixels: MOST_PIXELS }).metadata();
		deep = meta.depth === "ushort";
		format = meta.format ?? "";
		raw = await sharp(data, { limitInputPixels: MOST_PIXELS, failOn: "warning" })
			.autoOrient()
			.removeAlpha()
			.toColourspace(deep ? "rgb16" : "srgb")
			.raw({ depth: deep ? "ushort" : "uchar" })
			.toBuffer({ resolveWithObject: true });
	} catch {
		throw new SkyPictureError(NOT_READ);
	}
	const { width, height } = raw.info;
	const values = deep ? new Uint16Array(raw.data.buffer, raw.data.byteOffset, width * height * 3) : raw.data;
	const linear = Float32Array.from({ length: deep ? 65_536 : 256 }, (_, v) => decodeSrgb(v / (deep ? 65_535 : 255)));
	const rgb = new Float32Array(width * height * 3);
	for (let i = 0; i < rgb.length; i++) rgb[i] = linear[values[i]];
	return { width, height, rgb, mediaType: `image/${format}` };
}

async function readPicture(data: Uint8Array): Promise<LinearPicture> {
	if (data.length === 0) throw new SkyPictureError("The file is empty.");
	if (isHdr(data)) return { ...readHdr(data, MOST_PIXELS), mediaType: "image/vnd.radiance" };
	if (mediaTypeOf(data) === EXR) return fromExr(data);
	return fromSharp(data);
}

const EXR = "image/x-exr";
const KINDS = [EXR, "image/vnd.radiance", "image/png", "image/jpeg", "image/webp", "image/tiff"];

/** Throws {@link SkyPictureError} when a file does not begin as one that can be a sky does. */
export function checkSkyHead(head: Uint8Array): void {
	if (head.length === 0) throw new SkyPictureError("The file is empty.");
	if (!KINDS.includes(mediaTypeOf(head))) throw new SkyPictureError(NOT_READ);
}

/** Bytes of a file, and pixels of an EXR, above which a sky takes long and is prepared beside others. */
const LARGE = { bytes: 24 * 1024 * 1024, pixels: 20_000_000 };

/** Whether preparing a file takes many seconds. Throws {@link PictureFileError}. */
export const isLargeSky = (data: Uint8Array): boolean =>
	data.length > LARGE.bytes || (mediaTypeOf(data) === EXR && exrPixels(data) > LARGE.pixels);

export interface PreparedSky {
	table: SkyTable;
	widthPx: number;
	heightPx: number;
	mediaType: string;
	/** Values that were no numbers, infinite or below zero. */
	mended: number;
}

/** Makes the table of a file. Throws {@link PictureFileError} in words. */
export async function prepareSky(data: Uint8Array): Promise<PreparedSky> {
	const { width, height, rgb, mediaType } = await readPicture(data);
	const ratio = width / height;
	if (width > 4 && (ratio < 1.9 || ratio > MOST_STRIP))
		throw new SkyPictureError(
			`A sky picture shows all headings around and is twice as wide as high, or up to ${MOST_STRIP} times for a strip about the horizon; this one has ${width} × ${height} pixels.`,
		);
	const { table: own, mended } = makeSkyTable(width, height, rgb);
	const table = isStrip(width, height) ? completedStrip(own) : own;
	return { table, widthPx: width, heightPx: height, mediaType, mended };
}

type Prepare = (data: Uint8Array) => Promise<PreparedSky>;

/** Keeps a file and its table; `prepare` makes that where the caller wants it made. */
export async function keepSky(
	pool: pg.Pool,
	data: Uint8Array,
	prepare: Prepare = prepareSky,
): Promise<Omit<PreparedSky, "table" | "mediaType"> & { file: string }> {
	const { table, mediaType, ...facts } = await prepare(data);
	const file = await inTransaction(pool, async (client) => {
		const kept = await putBlob(client, data, mediaType);
		await keepMade(client, nameOf(kept), skyTableBytes(table));
		return kept;
	});
	return { file, ...facts };
}

const nameOf = (file: string): MadeName => ({ maker: "sky", code: CODE, key: file, file });

/** Name of the blob with the table of a file; made when it is missing. Null when there is no such file. */
export async function preparedSky(pool: pg.Pool, file: string, prepare: Prepare = prepareSky): Promise<string | null> {
	if (!(await blobInfo(pool, file))) return null;
	return madeOnce(pool, nameOf(file), async () => {
		const data = await getBlob(pool, file);
		if (!data) throw new SkyPictureError("The file of this sky picture is gone.");
		return skyTableBytes((await prepare(data)).table);
	});
}

/** Reads the table of a file. Throws when the file is gone. */
export async function readPreparedSky(pool: pg.Pool, file: string, name: string): Promise<SkyTable> {
	const prepared = await preparedSky(pool, file);
	const bytes = prepared && (await getBlob(pool, prepared));
	if (!bytes) throw new SkyPictureError(`The file of the sky picture "${name}" is gone.`);
	return readSkyTable(bytes);
}
