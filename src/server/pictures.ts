/** Brings reference pictures in: checked, decoded once, turned upright, kept as they came. */
import sharp, { type Metadata } from "sharp";
import { MOST_PIXELS } from "../core/brief/copies.ts";
import { mediaTypeOf } from "../store/mediaType.ts";
import type { KeptPicture } from "../wire/contracts.ts";
import { HttpError } from "./route.ts";

const TYPES = ["image/png", "image/jpeg", "image/webp"];

export interface CheckedPicture extends Omit<KeptPicture, "blob"> {
	mediaType: string;
	data: Uint8Array;
}

/** Throws when a file does not begin as a picture does that can be brought in. */
export function checkPictureHead(head: Uint8Array): void {
	if (head.length === 0) throw new HttpError(400, "empty-picture", "The file is empty.");
	const type = mediaTypeOf(head);
	if (TYPES.includes(type)) return;
	const what = type.startsWith("image/")
		? `A picture of the kind ${type.slice(6)} cannot be brought in. PNG, JPEG and WebP can.`
		: "This file is not a picture. PNG, JPEG and WebP can be brought in.";
	throw new HttpError(415, "not-a-picture", what);
}

/** Pictures that are decoded at the same time: each of a hundred megapixels takes memory. */
const AT_ONCE = 2;
let busy = 0;
const waiting: (() => void)[] = [];

/** Does work when there is room for it. */
async function inTurn<T>(work: () => Promise<T>): Promise<T> {
	if (busy >= AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve));
	else busy++;
	try {
		return await work();
	} finally {
		const next = waiting.shift();
		// Its room goes to the next one.
		if (next) next();
		else busy--;
	}
}

/** Checks that bytes are a whole PNG, JPEG or WebP of at most 100 megapixels. */
export async function checkPicture(data: Uint8Array): Promise<CheckedPicture> {
	checkPictureHead(data);
	return inTurn(() => decoded(data));
}

async function decoded(data: Uint8Array): Promise<CheckedPicture> {
	let meta: Metadata;
	try {
		meta = await sharp(data, { limitInputPixels: false }).metadata();
	} catch {
		throw new HttpError(415, "not-a-picture", "This file is not a picture. PNG, JPEG and WebP can be brought in.");
	}
	const mediaType = mediaTypeOf(data);
	const pixels = (meta.width ?? 0) * (meta.height ?? 0);
	if (pixels > MOST_PIXELS)
		throw new HttpError(
			413,
			"too-many-pixels",
			`The picture has ${(pixels / 1e6).toFixed(0)} megapixels; 100 are the most.`,
		);
	try {
		// Decoding all its lines is the only proof that it is not damaged: they are read on the way to the last. A small copy
		// would be made of a part of what a JPEG holds.
		const { width, height } = meta;
		await sharp(data, { failOn: "warning", sequentialRead: true, limitInputPixels: MOST_PIXELS })
			.extract({ left: 0, top: height - 1, width, height: 1 })
			.raw()
			.toBuffer();
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
	const type = mediaTypeOf(data);
	if (type.startsWith("video/")) return type;
	throw new HttpError(415, "not-a-clip", "This file is no clip that can be brought in. WebM and MP4 can.");
}
