/**
 * Pictures of land as they come: heights as PNG (ISO/IEC 15948) of up to 16 bits or EXR, colours as sRGB. What is read of them is one
 * table of values, which is kept.
 */
import { type DecodedPng, decode } from "fast-png";
import { openExr, PictureFileError } from "./exr.ts";
import { filled, slopesOfSteps } from "./landMended.ts";

/** What a picture is read as: heights, the same with steps smoothed, colours, or what of it is there at all. */
export type LandPictureAs = "heights" | "smoothed" | "colours" | "cut";

/** Rows from the top. */
export interface LandPicture {
	width: number;
	height: number;
	/** Shares of 0 to 1 between lowest and highest, one a pixel; or bytes of sRGB, three a pixel. */
	values: Float32Array | Uint8Array;
}

/** What a file says of itself. */
export interface LandPictureFacts {
	/** As the file has them. */
	widthPx: number;
	heightPx: number;
	/** Of a value of it; 32 are floats. */
	bits: number;
	/** Metres that its lowest and highest value stand for, where it says so. */
	leastM: number | null;
	mostM: number | null;
	/** Metres of its width, and its middle, where it says so. */
	acrossM: number | null;
	at: { x: number; z: number } | null;
	/** Values that were no numbers or infinite, and have been filled from about them. */
	mended: number;
	/** How often its sides have been halved. */
	halved: number;
	/** Its channel that was read, where there were others. */
	channel: string | null;
}

export class LandPictureError extends PictureFileError {
	override readonly code = "bad-land-picture";
}

/** Pixels of a side: of what is read at all, and of what is kept. */
const MOST_SIDE = 8192;
const KEPT_SIDE = 4096;

const NOT_READ =
	"This file is no picture of heights that can be read, or it is damaged. PNG of 8 or 16 bits and EXR can be laid on land.";

function checkSides(width: number, height: number): void {
	if (width < 2 || height < 2)
		throw new LandPictureError(`The picture has ${width} × ${height} pixels: land needs two of each side at least.`);
	if (width > MOST_SIDE || height > MOST_SIDE)
		throw new LandPictureError(
			`The picture has ${width} × ${height} pixels; up to ${MOST_SIDE} of a side can be laid on land. Halve it, or cut it into several.`,
		);
}

const isPng = (data: Uint8Array): boolean =>
	data[0] === 0x89 && data[1] === 0x50 && data[2] === 0x4e && data[3] === 0x47;
const isExr = (data: Uint8Array): boolean =>
	data[0] === 0x76 && data[1] === 0x2f && data[2] === 0x31 && data[3] === 0x01;

/** Throws {@link LandPictureError} when a file does not begin as one that tells heights does. */
export function checkHeightsHead(head: Uint8Array): void {
	if (head.length === 0) throw new LandPictureError("The file is empty.");
	if (!isPng(head) && !isExr(head)) throw new LandPictureError(NOT_READ);
}

/** Whether a file is meant to tell heights, by how it begins: an EXR, or a PNG of grey alone. */
export const tellsHeights = (head: Uint8Array): boolean =>
	isExr(head) || (isPng(head) && head.length > 25 && (head[25] === 0 || head[25] === 4));

interface Raw {
	width: number;
	height: number;
	values: Float32Array;
	bits: number;
	text: Record<string, string>;
	channel: string | null;
}

/** Sides of a PNG stand at the same place in each, before anything is unpacked. */
function pngSides(data: Uint8Array): [width: number, height: number] {
	if (data.length < 24) throw new LandPictureError(NOT_READ);
	const view = new DataView(data.buffer, data.byteOffset, data.byteLength);
	return [view.getUint32(16), view.getUint32(20)];
}

const CHANNELS = ["", "grey", "grey and alpha", "red, green and blue", "red, green, blue and alpha"];

function fromPng(data: Uint8Array): Raw {
	checkSides(...pngSides(data));
	let png: DecodedPng;
	try {
		png = decode(data, { checkCrc: true });
	} catch {
		throw new LandPictureError(NOT_READ);
	}
	const { width, height, depth, text, palette } = png;
	if (palette)
		throw new LandPictureError("The PNG has a palette of colours, which tells no heights. Save it as grey of 16 bits.");
	const channels = png.channels;
	const most = 2 ** depth - 1;
	const values = new Float32Array(width * height);
	const bytes = depth < 8 ? unpacked(png) : png.data;
	for (let i = 0; i < values.length; i++) values[i] = bytes[i * channels] / most;
	return {
		width,
		height,
		values,
		bits: depth,
		text,
		channel: channels > 1 ? `the first of ${CHANNELS[channels]}` : null,
	};
}

/** Values of less than 8 bits, one a byte. */
function unpacked({ width, height, depth, channels, data }: DecodedPng): Uint8Array {
	const line = width * channels;
	const packed = Math.ceil((line * depth) / 8);
	const out = new Uint8Array(line * height);
	for (let j = 0; j < height; j++)
		for (let i = 0; i < line; i++) {
			const bit = i * depth;
			out[j * line + i] = (data[j * packed + (bit >> 3)] >> (8 - depth - (bit & 7))) & (2 ** depth - 1);
		}
	return out;
}

/** Channels of an EXR that tell heights, the likeliest first. */
const HEIGHTS = ["Y", "height", "heights", "H", "Z", "R"];

function fromExr(data: Uint8Array): Raw {
	const file = openExr(data, MOST_SIDE * MOST_SIDE);
	const { width, height, names, text } = file;
	checkSides(width, height);
	const name = HEIGHTS.find((n) => names.includes(n)) ?? (names.length === 1 ? names[0] : null);
	if (name === null)
		throw new LandPictureError(
			`The EXR file has the channels ${names.join(", ").slice(0, 200)}, none of which is called ${HEIGHTS.join(", ")}: heights cannot be told from the others.`,
		);
	const [plane] = file.planes([name]);
	return {
		width,
		height,
		values: Float32Array.from(plane.data),
		bits: 32,
		text,
		channel: names.length > 1 ? name : null,
	};
}

const number = (text: string | undefined): number | null => {
	const value = text === undefined || text.trim() === "" ? Number.NaN : Number(text);
	return Number.isFinite(value) ? value : null;
};

/** The mean of each four pixels; a side with an odd pixel loses it. */
function halved({ width, height, values, ...rest }: Raw): Raw {
	const [w, h] = [width >> 1, height >> 1];
	const half = new Float32Array(w * h);
	for (let j = 0; j < h; j++)
		for (let i = 0; i < w; i++) {
			const at = 2 * j * width + 2 * i;
			half[j * w + i] = 0.25 * (values[at] + values[at + 1] + values[at + width] + values[at + width + 1]);
		}
	return { ...rest, width: w, height: h, values: half };
}

/**
 * Reads heights as shares between the lowest and the highest: of a float file those that it has, of another those that it could have.
 * Throws {@link PictureFileError} in words.
 */
export function readHeights(data: Uint8Array, smoothed = false): { picture: LandPicture; facts: LandPictureFacts } {
	checkHeightsHead(data);
	let raw = isPng(data) ? fromPng(data) : fromExr(data);
	const { width: widthPx, height: heightPx, bits, text, channel } = raw;
	const mended = filled(raw.values, raw.width, raw.height);
	if (mended === widthPx * heightPx) throw new LandPictureError("None of the picture's values is a number.");
	let count = 0;
	for (; Math.max(raw.width, raw.height) > KEPT_SIDE; count++) raw = halved(raw);
	const { width, height, values } = raw;
	let [least, most] = [0, 1];
	if (bits === 32) {
		[least, most] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
		for (const v of values) {
			least = Math.min(least, v);
			most = Math.max(most, v);
		}
		const range = most - least || 1;
		for (let i = 0; i < values.length; i++) values[i] = (values[i] - least) / range;
	}
	if (smoothed) slopesOfSteps(values, width, height, 1 / (2 ** bits - 1));
	const metresPerPixel = number(text.metresPerPixel);
	const [x, z] = [number(text.x), number(text.z)];
	return {
		picture: { width, height, values },
		facts: {
			widthPx,
			heightPx,
			bits,
			leastM: bits === 32 ? least : number(text.leastM),
			mostM: bits === 32 ? most : number(text.mostM),
			acrossM: metresPerPixel && metresPerPixel > 0 ? metresPerPixel * widthPx : null,
			at: x === null || z === null ? null : { x, z },
			mended,
			halved: count,
			channel,
		},
	};
}

const HEAD = 12;

/** Bytes of a picture as it is kept: its sides, the bytes of a pixel, then its values. */
export function landPictureBytes({ width, height, values }: LandPicture): Uint8Array {
	const out = new Uint8Array(HEAD + values.byteLength);
	const view = new DataView(out.buffer);
	view.setUint32(0, width, true);
	view.setUint32(4, height, true);
	view.setUint32(8, values instanceof Float32Array ? 4 : 3, true);
	out.set(new Uint8Array(values.buffer, values.byteOffset, values.byteLength), HEAD);
	return out;
}

/**
 * Reads a kept picture, its values in memory that threads share where there is such. Throws when the bytes are not of one.
 */
export function readLandPicture(bytes: Uint8Array): LandPicture {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const head = bytes.length > HEAD;
	const [width, height, pixel] = head ? [0, 4, 8].map((at) => view.getUint32(at, true)) : [0, 0, 0];
	const size = width * height * pixel;
	if (width < 2 || height < 2 || (pixel !== 3 && pixel !== 4) || bytes.length !== HEAD + size)
		throw new Error("The prepared land picture is damaged.");
	const buffer = typeof SharedArrayBuffer === "undefined" ? new ArrayBuffer(size) : new SharedArrayBuffer(size);
	new Uint8Array(buffer).set(bytes.subarray(HEAD));
	const values = pixel === 4 ? new Float32Array(buffer) : new Uint8Array(buffer);
	return { width, height, values: values as LandPicture["values"] };
}
