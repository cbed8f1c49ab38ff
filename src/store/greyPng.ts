/** Pictures of one channel, packed beside the server's own thread. */
import { crc32 } from "node:zlib";
import sharp from "sharp";
import { grey16 } from "../core/formats/greyPng.ts";

/** Shares of 0 to 1 as grey of 16 bits; what lies beyond is black or white. */
export function greyPng(shares: ArrayLike<number>, width: number, height: number): Promise<Buffer> {
	return sharp(grey16(shares), { raw: { width, height, channels: 1 }, limitInputPixels: false })
		.toColourspace("grey16")
		.png()
		.toBuffer();
}

/** Bytes of a PNG's signature and of its first chunk, after which others may stand. */
const AFTER_HEAD = 8 + 25;

/** A PNG with words in it (its chunk tEXt). */
export function withText(png: Buffer, text: Record<string, string>): Buffer {
	const chunks = Object.entries(text).map(([key, value]) => {
		const body = Buffer.from(`tEXt${key}\0${value}`, "latin1");
		const chunk = Buffer.alloc(body.length + 8);
		chunk.writeUInt32BE(body.length - 4, 0);
		body.copy(chunk, 4);
		chunk.writeUInt32BE(crc32(body), 4 + body.length);
		return chunk;
	});
	return Buffer.concat([png.subarray(0, AFTER_HEAD), ...chunks, png.subarray(AFTER_HEAD)]);
}
