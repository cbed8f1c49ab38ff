/** Pictures of land: kept as they came; the table of values that land is made from is read from them once and kept beside them. */
import type pg from "pg";
import sharp, { type Sharp } from "sharp";
import {
	checkHeightsHead,
	type LandPicture,
	type LandPictureAs,
	LandPictureError,
	type LandPictureFacts,
	landPictureBytes,
	readHeights,
	readLandPicture,
} from "../core/formats/landPicture.ts";
import type { LandRead } from "../core/ground/pictures.ts";
import { blobInfo, getBlob, putBlob } from "./blobs.ts";
import { inTransaction } from "./database.ts";
import { keepMade, type MadeName, madeOnce } from "./made.ts";
import { mediaTypeOf } from "./mediaType.ts";

/** Raised when tables are read in another way. */
const CODE = 1;
const MOST_PIXELS = 140_000_000;
const MOST_COLOUR_SIDE = 4096;

const COLOUR_KINDS = ["image/png", "image/jpeg", "image/webp", "image/tiff"];
const NO_COLOURS =
	"This file is no picture of colours that can be read, or it is damaged. PNG, JPEG, WebP and TIFF can be laid on land.";

export interface PreparedLandPicture {
	picture: LandPicture;
	facts: LandPictureFacts;
}

/** Bytes of a picture of colours as `told` takes them of it. */
async function readBytes(
	data: Uint8Array,
	told: (open: () => Sharp, hasAlpha: boolean) => Sharp,
	valuesOf: (bytes: Uint8Array) => LandPicture["values"],
	channelOf: (hasAlpha: boolean) => string | null,
): Promise<PreparedLandPicture> {
	try {
		const open = () => sharp(data, { limitInputPixels: MOST_PIXELS, failOn: "warning" });
		const { width: widthPx, height: heightPx, hasAlpha } = await open().metadata();
		const { data: bytes, info } = await told(open, hasAlpha)
			.resize({ width: MOST_COLOUR_SIDE, height: MOST_COLOUR_SIDE, fit: "inside", withoutEnlargement: true })
			.raw({ depth: "uchar" })
			.toBuffer({ resolveWithObject: true });
		const { width, height } = info;
		if (width < 2 || height < 2) throw new Error("too small");
		const facts = { widthPx, heightPx, bits: 8, leastM: null, mostM: null, acrossM: null, at: null };
		return {
			picture: { width, height, values: valuesOf(bytes) },
			facts: { ...facts, mended: 0, halved: 0, channel: channelOf(hasAlpha) },
		};
	} catch {
		throw new LandPictureError(NO_COLOURS);
	}
}

const readColours = (data: Uint8Array): Promise<PreparedLandPicture> =>
	readBytes(
		data,
		(open) => open().removeAlpha().toColourspace("srgb"),
		(bytes) => Uint8Array.from(bytes),
		() => null,
	);

/** What of a picture is there: what its pixels let through counts against it; one that lets nothing through tells it by how bright it is. */
const readCut = (data: Uint8Array): Promise<PreparedLandPicture> =>
	readBytes(
		data,
		(open, hasAlpha) =>
			hasAlpha ? open().extractChannel("alpha") : open().removeAlpha().toColourspace("b-w").extractChannel(0),
		(bytes) => Float32Array.from(bytes, (v) => v / 255),
		(hasAlpha) => (hasAlpha ? "alpha" : null),
	);

/** Whether it is read from pictures of colours. */
const ofColours = (as: LandPictureAs): boolean => as === "colours" || as === "cut";

/** Refuses files that do not begin as what is read of them does. Throws {@link LandPictureError}. */
export const checkLandPictureHead =
	(as: LandPictureAs) =>
	(head: Uint8Array): void => {
		if (!ofColours(as)) checkHeightsHead(head);
		else if (!COLOUR_KINDS.includes(mediaTypeOf(head))) throw new LandPictureError(NO_COLOURS);
	};

export interface LandPictureAsked {
	data: Uint8Array;
	as: LandPictureAs;
}

/** Reads a file. Throws `PictureFileError` in words. */
export const prepareLandPicture = async ({ data, as }: LandPictureAsked): Promise<PreparedLandPicture> =>
	as === "colours" ? readColours(data) : as === "cut" ? readCut(data) : readHeights(data, as === "smoothed");

type Prepare = (asked: LandPictureAsked) => Promise<PreparedLandPicture>;

const nameOf = (file: string, as: LandPictureAs): MadeName => ({
	maker: `land ${as}`,
	code: CODE,
	key: file,
	file,
});

/** Keeps a file and what is read of it; `prepare` reads it where the caller wants it read. */
export async function keepLandPicture(
	pool: pg.Pool,
	data: Uint8Array,
	as: LandPictureAs,
	prepare: Prepare = prepareLandPicture,
): Promise<LandPictureFacts & { file: string }> {
	const { picture, facts } = await prepare({ data, as });
	const file = await inTransaction(pool, async (client) => {
		const kept = await putBlob(client, data, mediaTypeOf(data));
		await keepMade(client, nameOf(kept, as), landPictureBytes(picture));
		return kept;
	});
	return { file, ...facts };
}

/** Name of the blob with what is read of a file; read when it is missing. Null when there is no such file. */
export async function preparedLandPicture(
	pool: pg.Pool,
	file: string,
	as: LandPictureAs,
	prepare: Prepare = prepareLandPicture,
): Promise<string | null> {
	if (!(await blobInfo(pool, file))) return null;
	return madeOnce(pool, nameOf(file, as), async () => {
		const data = await getBlob(pool, file);
		if (!data) throw new LandPictureError("The file of this land picture is gone.");
		return landPictureBytes((await prepare({ data, as })).picture);
	});
}

/** Throws when the file is gone. */
export async function readPreparedLandPicture(pool: pg.Pool, { file, name, as }: LandRead): Promise<LandPicture> {
	const prepared = await preparedLandPicture(pool, file, as);
	const bytes = prepared && (await getBlob(pool, prepared));
	if (!bytes) throw new LandPictureError(`The file of the land picture "${name}" is gone.`);
	return readLandPicture(bytes);
}
