/** Brings reference pictures in: checked, decoded once, turned upright, kept as they came. */
import sharp, { type Metadata } from "sharp";
import { MOST_PIXELS } from "../core/brief/copies.ts";
import type { KeptPicture } from "../wire/contracts.ts";
import { HttpError } from "./route.ts";

const TYPES: Record<string, string> = { png: "image/png", jpeg: "image/jpeg", webp: "image/webp" };

export interface CheckedPicture extends Omit<KeptPicture, "blob"> {
	mediaType: string;
	data: Uint8Array;
}

/** Checks that bytes are a whole PNG, JPEG or WebP of at most 100 megapixels. */
export async function checkPicture(data: Uint8Array): Promise<CheckedPicture> {
	if (data.length === 0) throw new HttpError(400, "empty-picture", "The file is empty.");
	let meta: Metadata;
	try {
		meta = await sharp(data, { limitInputPixels: false }).metadata();
	} catch {
		throw new HttpError(415, "not-a-picture", "This file is not a picture. PNG, JPEG and WebP can be brought in.");
	}
	const mediaType = TYPES[meta.format ?? ""];
	if (!mediaType)
		throw new HttpError(
			415,
			"not-a-picture",
			`A picture of the kind ${meta.format} cannot be brought in. PNG, JPEG and WebP can.`,
		);
	const pixels = (meta.width ?? 0) * (meta.height ?? 0);
	if (pixels > MOST_PIXELS)
		throw new HttpError(
			413,
			"too-many-pixels",
			`The picture has ${(pixels / 1e6).toFixed(0)} megapixels; 100 are the most.`,
		);
	try {
		// Decoding it wholly is the only proof that it is not damaged.
		await sharp(data, { failOn: "warning" }).resize(32, 32).raw().toBuffer();
	} catch {
		throw new HttpError(400, "damaged-picture", "The picture is damaged: it ends early or its data are wrong.");
	}
	const turned = (meta.orientation ?? 1) >= 5;
	const upright =
		(meta.orientation ?? 1) === 1
			? data
			: new Uint8Array(
					await sharp(data)
						.rotate()
						.toFormat(meta.format as "png")
						.toBuffer(),
				);
	return {
		mediaType,
		data: upright,
		widthPx: (turned ? meta.height : meta.width) ?? 0,
		heightPx: (turned ? meta.width : meta.height) ?? 0,
	};
}

/** Media type of a clip by how its file begins. Whether it plays, the browser tells. */
export function clipType(data: Uint8Array): string {
	if (data.length === 0) throw new HttpError(400, "empty-clip", "The file is empty.");
	const text = (from: number, to: number) => String.fromCharCode(...data.subarray(from, to));
	if (data[0] === 0x1a && text(1, 4) === "E\xdf\xa3") return "video/webm";
	if (text(4, 8) === "ftyp") return "video/mp4";
	throw new HttpError(415, "not-a-clip", "This file is no clip that can be brought in. WebM and MP4 can.");
}
