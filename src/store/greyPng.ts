/** Pictures of one channel, packed beside the server's own thread. */
import sharp from "sharp";
import { grey16 } from "../core/formats/greyPng.ts";

/** Shares of 0 to 1 as grey of 16 bits; what lies beyond is black or white. */
export function greyPng(shares: ArrayLike<number>, width: number, height: number): Promise<Buffer> {
	return sharp(grey16(shares), { raw: { width, height, channels: 1 }, limitInputPixels: false })
		.toColourspace("grey16")
		.png()
		.toBuffer();
}
