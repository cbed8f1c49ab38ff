/**
 * Sky pictures: kept as they came; the table that scenes are lit by is made of them once and kept beside them. HDR and EXR
 * are read by our own readers, pictures of 8 and 16 bits by sharp, and then taken from sRGB to linear light.
 */
import type pg from "pg";
import sharp from "sharp";
import { makeSkyTable, readSkyTable, type SkyTable, skyTableBytes } from "../core/air/skyPicture.ts";
import type { ShotDocument } from "../core/doc/schema.ts";
import { PictureFileError, readExr } from "../core/formats/exr.ts";
import { isHdr, readHdr } from "../core/formats/hdr.ts";
import { type PartCache, skyNeeded } from "../core/scene/compile.ts";
import { getBlob, putBlob } from "./blobs.ts";
import { inTransaction, type Queryable } from "./database.ts";

/** Raised when tables are made in another way. */
const CODE = 1;
const MOST_PIXELS = 140_000_000;
const EXR_MAGIC = 20000630;

/** A picture that cannot stand for a sky. */
export class SkyPictureError extends PictureFileError {
	override readonly code = "bad-sky";
}

interface LinearPicture {
	width: number;
	height: number;
	/** RGB, rows from the top. */
	rgb: Float32Array;
	mediaType: string;
}

const fromSrgb = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

function fromExr(data: Uint8Array): LinearPicture {
	const { width, height, channels } = readExr(data, MOST_PIXELS);
	const named = (name: string) => channels.find((c) => c.name === name)?.data;
	const grey = named("Y");
	const planes = [named("R") ?? grey, named("G") ?? grey, named("B") ?? grey];
	if (planes.some((p) => !p))
		throw new SkyPictureError(
			`The EXR file has no channels R, G and B, but ${channels
				.map((c) => c.name)
				.join(", ")
				.slice(0, 200)}.`,
		);
	const rgb = new Float32Array(width * height * 3);
	planes.forEach((plane, c) => {
		for (let i = 0; i < width * height; i++) rgb[i * 3 + c] = (plane as Float32Array)[i];
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
		throw new SkyPictureError(
			"This file is no picture that can be read, or it is damaged. HDR, EXR, PNG, JPEG, WebP and TIFF can be hung as a sky.",
		);
	}
	const { width, height } = raw.info;
	const values = deep ? new Uint16Array(raw.data.buffer, raw.data.byteOffset, width * height * 3) : raw.data;
	const linear = Float32Array.from({ length: deep ? 65_536 : 256 }, (_, v) => fromSrgb(v / (deep ? 65_535 : 255)));
	const rgb = new Float32Array(width * height * 3);
	for (let i = 0; i < rgb.length; i++) rgb[i] = linear[values[i]];
	return { width, height, rgb, mediaType: `image/${format}` };
}

async function readPicture(data: Uint8Array): Promise<LinearPicture> {
	if (data.length === 0) throw new SkyPictureError("The file is empty.");
	if (isHdr(data)) return { ...readHdr(data, MOST_PIXELS), mediaType: "image/vnd.radiance" };
	if (data.length > 4 && new DataView(data.buffer, data.byteOffset).getUint32(0, true) === EXR_MAGIC)
		return fromExr(data);
	return fromSharp(data);
}

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
	if (width > 4 && (ratio < 1.9 || ratio > 2.1))
		throw new SkyPictureError(
			`A sky picture shows all directions around and is twice as wide as high; this one has ${width} × ${height} pixels.`,
		);
	const { table, mended } = makeSkyTable(width, height, rgb);
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
		await keepTable(client, kept, table);
		return kept;
	});
	return { file, ...facts };
}

async function keepTable(db: Queryable, file: string, table: SkyTable): Promise<void> {
	const prepared = await putBlob(db, skyTableBytes(table), "application/octet-stream");
	await db.query(
		"insert into skies (file, prepared, code) values ($1, $2, $3) on conflict (file) do update set prepared = $2, code = $3",
		[file, prepared, CODE],
	);
}

/** Name of the blob with the table of a file; made anew when it is not there. Null when there is no such file. */
export async function preparedSky(pool: pg.Pool, file: string, prepare: Prepare = prepareSky): Promise<string | null> {
	const find = async () =>
		(await pool.query<{ prepared: string }>("select prepared from skies where file = $1 and code = $2", [file, CODE]))
			.rows[0]?.prepared;
	const held = await find();
	if (held) return held;
	const data = await getBlob(pool, file);
	if (!data) return null;
	const { table } = await prepare(data);
	await inTransaction(pool, (client) => keepTable(client, file, table));
	return (await find()) ?? null;
}

/** Reads the sky picture that a compile of this shot needs into the cache. Throws when its file is gone. */
export async function loadSky(pool: pg.Pool, doc: Pick<ShotDocument, "air">, cache: PartCache): Promise<void> {
	const file = skyNeeded(doc, cache);
	if (!file) return;
	const prepared = await preparedSky(pool, file);
	const bytes = prepared && (await getBlob(pool, prepared));
	if (!bytes) throw new SkyPictureError(`The file of the sky picture "${doc.air.picture?.name}" is gone.`);
	cache.keepSky(file, readSkyTable(bytes));
}
