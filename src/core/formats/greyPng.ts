/** Pictures of one channel, or of several that have nothing to do with each other. */
import { encode } from "fast-png";

/** Shares of 0 to 1 as grey of 16 bits; what lies beyond is black or white. */
export const grey16 = (shares: ArrayLike<number>): Uint16Array =>
	Uint16Array.from(shares, (v) => Math.round(65_535 * Math.min(1, Math.max(0, v))));

/** Shares as a PNG (ISO/IEC 15948) of 16 bits with words in it, wherever it runs; a server has a swifter one beside its threads. */
export const greyPng = (
	shares: ArrayLike<number>,
	width: number,
	height: number,
	text: Record<string, string> = {},
): Uint8Array => encode({ width, height, data: grey16(shares), channels: 1, depth: 16, text });

/** What of one place goes side by side into a picture, and the names of its channels there. */
export const CHANNELS = ["red", "green", "blue", "alpha"] as const;

/** Two to four shares of each place as the channels of one PNG of 16 bits; with two, blue is black. */
export function packedPng(shares: readonly ArrayLike<number>[], width: number, height: number): Uint8Array {
	const channels = Math.max(3, shares.length);
	const data = new Uint16Array(width * height * channels);
	for (const [c, own] of shares.entries()) grey16(own).forEach((v, i) => (data[i * channels + c] = v));
	return encode({ width, height, data, channels, depth: 16 });
}
