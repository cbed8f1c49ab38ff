/** Pictures of one channel. */
import sharp from "sharp";

/** Shares of 0 to 1 as grey of 16 bits; what lies beyond is black or white. */
export function greyPng(shares: ArrayLike<number>, width: number, height: number): Promise<Buffer> {
	const grey = Uint16Array.from(shares, (v) => Math.round(65_535 * Math.min(1, Math.max(0, v))));
	return sharp(grey, { raw: { width, height, channels: 1 }, limitInputPixels: false })
		.toColourspace("grey16")
		.png()
		.toBuffer();
}
